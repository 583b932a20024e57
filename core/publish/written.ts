import { optionInWords } from '../edition/rows'
import type { StepContent } from '../edition/stepContent'
import type { Thing } from '../folio/thing'
import { layGuide } from '../guides'
import { plainMathml, withoutColours } from '../maths'
import { html, trusted, type Html } from './html'

/** A line of what a step wrote: maths as MathML where it was typed, else words. */
export type WrittenLine = { mathml: string } | { words: string }

/** What a step brought to the board, line by line: typed maths, options with their reasons, what guides wrote. */
export function writtenIn({ things, moves }: StepContent): WrittenLine[] {
  const guides = moves.flatMap(({ guide, move }) => layGuide(guide.spec).moves[move]?.say ?? [])
  return [...things.flatMap(lineOf), ...guides.map(words => ({ words }))]
}

function lineOf(thing: Thing): WrittenLine[] {
  switch (thing.kind) {
    case 'line': {
      const mathml = plainMathml(thing.set.mathml)
      return [mathml ? { mathml } : { words: withoutColours(thing.source) }]
    }
    case 'option':
      return [{ words: optionInWords(thing) }]
    default:
      return 'text' in thing && thing.text ? [{ words: thing.text }] : []
  }
}

/** A line as it stands in the page. */
export const writtenLine = (line: WrittenLine): Html =>
  'mathml' in line ? html`<p class="written">${trusted(line.mathml)}</p>` : html`<p class="written">${line.words}</p>`
