import { AsciiMath } from 'asciimath-parser'
import { mathjax } from '@mathjax/src/mjs/mathjax.js'
import { MathML } from '@mathjax/src/mjs/input/mathml.js'
import { TeX } from '@mathjax/src/mjs/input/tex.js'
import '@mathjax/src/mjs/input/tex/ams/AmsConfiguration.js'
import '@mathjax/src/mjs/input/tex/base/BaseConfiguration.js'
import '@mathjax/src/mjs/input/tex/cancel/CancelConfiguration.js'
import '@mathjax/src/mjs/input/tex/color/ColorConfiguration.js'
import '@mathjax/src/mjs/input/tex/mhchem/MhchemConfiguration.js'
import { liteAdaptor } from '@mathjax/src/mjs/adaptors/liteAdaptor.js'
import { SerializedMmlVisitor } from '@mathjax/src/mjs/core/MmlTree/SerializedMmlVisitor.js'
import { STATE } from '@mathjax/src/mjs/core/MathItem.js'
import { RegisterHTMLHandler } from '@mathjax/src/mjs/handlers/html.js'
import { SVG } from '@mathjax/src/mjs/output/svg.js'
import { Trouble } from '../folio/trouble'
import type { Notation, SetMark, Typeset } from '../folio/thing'
import { letterColour, PEN_ROLES, ROLE_STYLES, roleOfKey } from '../ink/roles'
import { isLatex, latexOfPieces, readLine, type Piece } from './line/read'
import { rows, withAside } from './line/rows'
import { colouredWords, colourPieces, plainToAsciiMath, wordsAndMaths, type RoleColours } from './notation'
import { readSvg } from './svgMarks'

/** A node of MathJax's light tree, as far as it is read here. */
export interface LiteNode {
  kind: string
  attributes?: Record<string, string>
  children?: LiteNode[]
  value?: string
}

const COLOURS = Object.fromEntries(PEN_ROLES.map(r => [r, ROLE_STYLES[r].colour])) as RoleColours
const SIZE = { em: 1000, ex: 442, containerWidth: 1e7 }
/** A longer line is not one that anybody writes. */
const LONGEST = 1500

let ready: { latex: Reader; mathml: Reader; plain: AsciiMath } | undefined
type Reader = { convert(source: string, options: object): unknown }

function readers() {
  if (ready) return ready
  RegisterHTMLHandler(liteAdaptor())
  // Glyphs are given out as paths, each where it stands; lines are never broken.
  const output = () => new SVG({ fontCache: 'none', linebreaks: { inline: false } })
  const latex = new TeX({
    packages: ['base', 'ams', 'color', 'cancel', 'mhchem'],
    formatError: (_: unknown, error: { message: string }) => {
      throw error
    },
  })
  ready = {
    latex: mathjax.document('', { InputJax: latex, OutputJax: output() }) as Reader,
    mathml: mathjax.document('', { InputJax: new MathML({}), OutputJax: output() }) as Reader,
    plain: new AsciiMath({ display: false }),
  }
  return ready
}

/** What a line has to fit: how wide it may be before words go to another row, and where its aside lines up. */
export interface Fit {
  width?: number | undefined
  aside?: number | undefined
}

/**
 * Typesets one line.
 * @param source as typed, in the given notation; `@4(…)` colours a piece as pen 4
 * @param fit lengths in thousandths of the letter size
 * @throws Trouble `line-unclear` for a line that cannot be read (an unknown command, something that is missing behind
 * a sign), `line-long`
 */
export async function typeset(source: string, notation: Notation, fit: Fit = {}): Promise<Typeset> {
  if (source.length > LONGEST)
    throw new Trouble(
      'line-long',
      `This line has ${source.length} signs; ${LONGEST} are the most.`,
      'What you typed is still there.',
      'Break it into several lines.',
    )
  try {
    return notation === 'mixed' ? await typesetMixed(source, fit) : await picture(await toMathml(source, notation))
  } catch (error) {
    throw unclear(error)
  }
}

/** The picture of a formula in MathML (W3C). */
async function picture(mathml: string): Promise<Typeset> {
  const node = (await mathjax.handleRetriesFor(() =>
    readers().mathml.convert(mathml, { display: false, ...SIZE }),
  )) as LiteNode
  return { ...readSvg(node), aside: null, mathml }
}

const coloured = (role: string, latex: string) => `{\\color{${COLOURS[roleOfKey(role)!]}}${latex}}`

/** Words and maths together; LaTeX from end to end where the line has a command of it. */
async function typesetMixed(source: string, fit: Fit): Promise<Typeset> {
  if (isLatex(source))
    return picture(await latexToMathml(colourPieces(source.replace(/^\$(.*)\$$/, '$1'), 'latex', COLOURS)))
  const { pieces, aside } = readLine(source, coloured)
  const set = async (all: readonly Piece[]) => picture(await latexToMathml(`\\displaystyle ${latexOfPieces(all)}`))
  const main = await rows(pieces, fit.width, set)
  return aside ? withAside(main, await set(aside), fit.aside, letterColour('aside')) : main
}

async function latexToMathml(latex: string): Promise<string> {
  const root = await mathjax.handleRetriesFor(() =>
    readers().latex.convert(latex, { end: STATE.CONVERT, display: false, ...SIZE }),
  )
  return new SerializedMmlVisitor()
    .visitTree(root as never)
    .replace(/\n\s*/g, '')
    .replace(/ data-latex(?:-item)?="[^"]*"/g, '')
    .replace(/ data-mjx-variant="-mhchem"/g, '')
    .replace(/&#xE4(..);/g, (all, code: string) => ARROWS[code] ?? all)
}
/** Arrows of reactions, which the typesetter has in a font of their own, by the arrows of Unicode. */
const ARROWS: Record<string, string> = {
  '28': '⟵',
  '29': '⟶',
  '2A': '⟷',
  '2B': '⇄',
  '08': '⇌',
  '09': '⇌',
  '0A': '⇌',
  '2C': '←',
  '2D': '→',
  '2E': '↔',
}

/** A typed line as MathML (W3C), which screen readers speak. */
async function toMathml(source: string, notation: Notation): Promise<string> {
  const plain = (text: string) =>
    latexToMathml(`\\displaystyle ${readers().plain.toTex(colourPieces(plainToAsciiMath(text), 'maths', COLOURS))}`)
  try {
    if (notation === 'latex') return await latexToMathml(colourPieces(source, notation, COLOURS))
    if (notation === 'maths') return await plain(source)
    const pieces = await Promise.all(
      wordsAndMaths(source).map(async ({ maths, text }) => (maths ? inner(await plain(text)) : wordsToMathml(text))),
    )
    return `<math xmlns="http://www.w3.org/1998/Math/MathML"><mrow>${pieces.join('')}</mrow></math>`
  } catch (error) {
    throw unclear(error)
  }
}

/** Words are one `mtext`; spaces must not be lost at its ends. */
function wordsToMathml(text: string): string {
  const kept = (s: string) =>
    `<mtext>${s.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/ /g, '\u00a0')}</mtext>`
  return colouredWords(text)
    .map(({ text: words, role }) =>
      role ? `<mstyle mathcolor="${COLOURS[role]}">${kept(words)}</mstyle>` : kept(words),
    )
    .join('')
}

const inner = (math: string) => math.replace(/^<math[^>]*>/, '<mrow>').replace(/<\/math>$/, '</mrow>')

function unclear(error: unknown): Trouble {
  if (error instanceof Trouble) return error
  const why = (error as { message?: string }).message ?? String(error)
  return new Trouble(
    'line-unclear',
    `This line cannot be read yet: ${why}.`,
    'What you typed is still there.',
    'Complete it, or type it as plain maths.',
    error,
  )
}

export type { SetMark }
