import type { Folio, Option, Question } from '#core/folio'
import type { SeenWord } from '#core/questions'
import { seenWordsIn } from '../paper/seenWords'

/** Words on one height are one line, points. */
const LINE = 4
/** Words that stand nearer to each other are not two, as a share of their size. */
const TOUCHING = 0.12

/** What is printed of a question where it is seen, line by line: patched words as they are patched. */
export async function printOf(folio: Folio, question: Question): Promise<string[]> {
  const lines: string[] = []
  for (const region of question.regions) {
    const page = folio.pages.find(p => p.id === region.pageId)
    if (page) lines.push(...linesOf(await seenWordsIn(page, folio, region.box).catch(() => [])))
  }
  return lines
}

/** The options of a question as they are seen on the sheet: one that was patched says what the patch says. */
export async function optionsAsSeen(folio: Folio, { options }: Question): Promise<Option[]> {
  const seen = async (option: Option): Promise<Option> => {
    const page = folio.pages.find(p => p.id === option.place?.pageId)
    const { box } = option.place ?? {}
    if (!page?.patches.length || !box) return option
    const under = page.patches.some(
      p => p.box.x < box.x + box.w && p.box.x + p.box.w > box.x && p.box.y < box.y + box.h && p.box.y + p.box.h > box.y,
    )
    if (!under) return option
    const said = linesOf(await seenWordsIn(page, folio, box).catch(() => [])).join(' ')
    const own = said.startsWith(option.label) ? said.slice(option.label.length).replace(/^[).:\s]+/, '') : said
    return { ...option, text: own.slice(0, 500) }
  }
  return Promise.all(options.map(seen))
}

function linesOf(words: readonly SeenWord[]): string[] {
  const lines: { y: number; words: SeenWord[] }[] = []
  for (const word of [...words].sort((a, b) => a.y - b.y)) {
    const last = lines[lines.length - 1]
    if (last && word.y - last.y < LINE) last.words.push(word)
    else lines.push({ y: word.y, words: [word] })
  }
  return lines.map(lineOf).filter(Boolean)
}

function lineOf({ words }: { words: SeenWord[] }): string {
  let said = ''
  let end = -Infinity
  for (const { text, x, w, size } of words.sort((a, b) => a.x - b.x)) {
    said += said && x - end > TOUCHING * size ? ` ${text}` : text
    end = x + w
  }
  return said.replace(/\s+/g, ' ').trim()
}
