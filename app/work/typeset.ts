import { newId, Typeset, type FigureSpec, type LineThing, type Notation, type Spot } from '#core/folio'
import { labelsOf } from '#core/figures'
import { seededRandom, type PenRole } from '#core/ink'
import { writeLine } from '#core/maths'
import { typesetRunner } from './workers'

/** What a line has to fit, in thousandths of its letters: how wide it may be, and where its aside lines up. */
export interface Fit {
  width?: number | undefined
  aside?: number | undefined
}

const cache = new Map<string, Promise<Typeset>>()

/** Typesets a line; the last few hundred are at hand. @throws Trouble `line-unclear`, `line-long` */
export function typesetLine(source: string, notation: Notation, fit: Fit = {}): Promise<Typeset> {
  const key = `${notation}:${fit.width ?? ''}:${fit.aside ?? ''}:${source}`
  let set = cache.get(key)
  if (!set) {
    set = typesetRunner()
      .run('typeset', { source, notation, fit })
      .then(v => Typeset.parse(v))
    if (cache.size > 400) cache.clear()
    cache.set(key, set)
    set.catch(() => cache.delete(key))
  }
  return set
}

export interface LineWish {
  source: string
  notation: Notation
  at: Spot
  size: number
  role: PenRole
  byHand: boolean
  fit?: Fit
}

/** A typed line as a thing. @throws Trouble as {@link typesetLine} */
export async function lineThing({ source, notation, at, size, role, byHand, fit }: LineWish): Promise<LineThing> {
  const set = await typesetLine(source, notation, fit)
  const line: LineThing = { kind: 'line', at, size, role, notation, source, set }
  if (!byHand) return line
  const { strokes } = writeLine(set, { x: 0, y: 0 }, size, role, seededRandom(source.length + 1), newId)
  // Kept in letter sizes, so that the writing can be moved and grown; times stay.
  return {
    ...line,
    hand: strokes.map(s => s.points.map((v, i) => (i % 4 < 2 ? Math.round((v / size) * 1000) / 1000 : v))),
  }
}

/**
 * The typeset labels of a figure, by their source.
 * @throws Trouble for a figure that cannot be laid out or a label that cannot be read
 */
export async function figureSets(spec: FigureSpec): Promise<Record<string, Typeset>> {
  const labels = labelsOf(spec)
  const sets = await Promise.all(labels.map(l => typesetLine(l, 'mixed')))
  return Object.fromEntries(labels.map((l, i) => [l, sets[i]!]))
}

/** How long a thing takes to appear, ms. */
export function durationOf(
  thing: { kind: string; hand?: number[][]; set?: unknown },
  how: 'writing' | 'at once',
): number {
  if (how === 'at once') return 0
  if (thing.hand) return Math.max(0, ...thing.hand.map(s => s[s.length - 1] ?? 0))
  const marks = (thing.set as Typeset | undefined)?.marks.length
  return marks ? Math.min(4000, 200 + 55 * marks) : 500
}
