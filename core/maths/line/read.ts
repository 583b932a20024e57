import { chemistryOf } from './chemistry'
import { classify, type Reading } from './classify'
import { lexemesOf, type Lexeme } from './lexemes'
import { latexOf, textLatex, type Coloured, type MathsLexeme } from './toLatex'

/** A stretch of a typed line that is set in one way. `text` is what was typed, `latex` how it is set. */
export interface Piece {
  kind: 'words' | 'maths' | 'chemistry'
  text: string
  latex: string
}
/** A typed line as it was read: its pieces, and those of the aside at its end ("| −2x"). */
export interface ReadLine {
  pieces: Piece[]
  aside: Piece[] | null
}

/** Whether a line is LaTeX from end to end: it has a command. */
export const isLatex = (source: string): boolean => /\\[a-zA-Z]{2,}|\\[,;!{]|^\$.+\$$/.test(source)

/**
 * Reads a line in which words and maths stand together as they were typed. What stands in quotes is words, what stands
 * in backticks is maths, whatever it would be read as.
 * @param coloured the LaTeX of a piece in another role's colour
 * @throws Trouble `line-unclear` where something is missing
 * @example readLine('so x = 3', c).pieces.map(p => p.kind) // ['words', 'maths']
 */
export function readLine(source: string, coloured: Coloured): ReadLine {
  const bar = asideAt(source)
  const main = bar < 0 ? source : source.slice(0, bar)
  return {
    pieces: piecesOf(main, coloured),
    aside: bar < 0 ? null : piecesOf(source.slice(bar + 1), coloured),
  }
}

/** Where the bar stands that parts a line from its aside: by itself, outside of brackets, and closing no other bar. */
function asideAt(source: string): number {
  let depth = 0,
    bars = 0
  const masked = source.replace(/"[^"]*"|`[^`]*`/g, all => '"'.repeat(all.length))
  for (let i = 0; i < masked.length; i++) {
    if ('([{'.includes(masked[i]!)) depth++
    if (')]}'.includes(masked[i]!)) depth--
    if (masked[i] !== '|') continue
    // Behind a sign, a bar opens what it goes round.
    const spaced = i > 0 && /\s/.test(masked[i - 1]!) && !/[-−+*×·÷/=<>≤≥±,]\s+$/.test(masked.slice(0, i))
    const rest = masked.slice(i + 1)
    // What is behind it goes on without another bar, or with pairs of them.
    if (depth === 0 && bars % 2 === 0 && spaced && rest.trim() && (rest.split('|').length - 1) % 2 === 0) return i
    bars++
  }
  return -1
}

function piecesOf(source: string, coloured: Coloured): Piece[] {
  const pieces: Piece[] = []
  let at = 0
  for (const { from, to, source: written } of chemistryOf(source)) {
    pieces.push(...plainPieces(source.slice(at, from), coloured))
    pieces.push({ kind: 'chemistry', text: source.slice(from, to), latex: `\\ce{${written}}` })
    at = to
  }
  pieces.push(...plainPieces(source.slice(at), coloured))
  return spaced(pieces.filter(p => p.text))
}

/** Words and maths of a stretch without chemistry; spaces belong to the words, or stand between two pieces. */
function plainPieces(source: string, coloured: Coloured): Piece[] {
  const lexemes = lexemesOf(source)
  const readings = classify(lexemes)
  const runs: { words: boolean; all: MathsLexeme[] }[] = []
  lexemes.forEach((lexeme, i) => {
    const words = readings[i] === 'words'
    const last = runs.at(-1)
    const marked = asMaths(lexeme, readings[i]!)
    if (last?.words === words) last.all.push(marked)
    else runs.push({ words, all: [marked] })
  })
  const pieces = runs.map(({ words, all }, i): Piece => {
    // Spaces around words are theirs.
    const from = words ? (runs[i - 1]?.all.at(-1)!.to ?? 0) : all[0]!.from
    const to = words ? (runs[i + 1]?.all[0]!.from ?? source.length) : all.at(-1)!.to
    const text = source.slice(from, to)
    return {
      kind: words ? 'words' : 'maths',
      text,
      latex: words ? wordsLatex(all, text, from, coloured) : latexOf(all, coloured),
    }
  })
  // A stretch of nothing but spaces keeps two pieces of chemistry apart.
  return pieces.length || !source ? pieces : [{ kind: 'words', text: source, latex: textLatex(source) }]
}

const asMaths = (lexeme: Lexeme, reading: Reading): MathsLexeme =>
  reading === 'unit' ? { ...lexeme, unit: true } : lexeme

/** Words as they are, quoted ones without their quotes, coloured ones in their colour. */
function wordsLatex(all: readonly Lexeme[], text: string, from: number, coloured: Coloured): string {
  let out = '',
    at = 0,
    plain = ''
  const flush = () => {
    if (plain) out += textLatex(plain)
    plain = ''
  }
  for (const lexeme of all) {
    const start = lexeme.from - from
    plain += text.slice(at, start)
    at = start + lexeme.text.length
    if (lexeme.kind === 'quoted') plain += lexeme.inner!
    else if (lexeme.kind === 'colour') {
      flush()
      out += coloured(
        lexeme.role!,
        piecesOf(lexeme.inner!, coloured)
          .map(p => p.latex)
          .join(''),
      )
    } else plain += lexeme.text
  }
  plain += text.slice(at)
  flush()
  return out
}

const OPERATOR_EDGE = /^\s*(?:[=<>+×·÷±≤≥≠≈→⇒⇔−*-]|<=|>=|!=|=>|->)|(?:[=<>+×·÷±≤≥≠≈→⇒⇔−*-])\s*$/

/** A sign of its own spacing needs no space of the words beside it. */
function spaced(pieces: readonly Piece[]): Piece[] {
  return pieces.map((piece, i) => {
    if (piece.kind !== 'words') return piece
    const before = pieces[i - 1],
      after = pieces[i + 1]
    let { latex } = piece
    if (before?.kind === 'maths' && OPERATOR_EDGE.test(before.text.trim().slice(-1)))
      latex = latex.replace('\\text{ ', '\\text{')
    if (after?.kind === 'maths' && OPERATOR_EDGE.test(after.text.trim().slice(0, 2))) latex = latex.replace(/ \}$/, '}')
    return { ...piece, latex }
  })
}

/** A whole line as one piece of LaTeX, without its aside. */
export const latexOfPieces = (pieces: readonly Piece[]): string => pieces.map(p => p.latex).join('')
