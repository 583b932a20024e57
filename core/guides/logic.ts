import type { GuideSpec } from '../folio/thing'
import { orderOf, squaresOf, writtenAt, type CellText, type GuideLayout, type Move, type ScaffoldLine } from './model'
import { notUnderstood } from './typed'

type Logic = Extract<GuideSpec, { guide: 'logic' }>
/** An item by its category and its place there. */
type Item = readonly [category: number, index: number]
type Mark = 'yes' | 'no'

/** What is known of every pair of items of two categories. */
class Known {
  private readonly marks = new Map<string, Mark>()
  constructor(readonly sizes: readonly number[]) {}
  private key(a: Item, b: Item): string {
    const [p, q] = a[0] < b[0] ? [a, b] : [b, a]
    return `${p[0]}.${p[1]}-${q[0]}.${q[1]}`
  }
  get(a: Item, b: Item): Mark | undefined {
    return this.marks.get(this.key(a, b))
  }
  set(a: Item, b: Item, mark: Mark): void {
    this.marks.set(this.key(a, b), mark)
  }
}

interface Entry {
  a: Item
  b: Item
  mark: Mark
}
interface Step {
  say: string
  entries: Entry[]
}

/**
 * A grid of two categories or more, each item of one belonging to just one of every other. Clues rule in and out; what
 * follows from them is a move each, with its reason.
 * @throws Trouble `guide-unclear` for clues that contradict each other, or that name nothing of the grid
 */
export function logicGrid({ categories, clues }: Omit<Logic, 'guide'>): GuideLayout {
  const steps = solve(categories, clues)
  const place = layOut(categories)
  const moves: Move[] = steps.map(s => ({
    say: s.say,
    cells: s.entries.flatMap(e => markIn(place.cell(e.a, e.b), e.mark)),
  }))
  return { ...place.layout, moves, order: place.order, ...(moves.length ? { order: orderOf(moves) } : {}) }
}

/** A tick or a cross in a square, as a hand draws it. */
function markIn({ col, row }: { col: number; row: number }, mark: Mark): CellText[] {
  const at = (...points: number[]) => points.map((v, i) => v + (i % 2 ? row : col))
  const line = (points: number[]): CellText => ({
    col,
    row,
    text: '',
    role: mark === 'yes' ? 'answer' : 'working',
    line: points,
  })
  return mark === 'yes'
    ? [line(at(0.22, 0.55, 0.42, 0.78, 0.8, 0.22))]
    : [line(at(0.27, 0.27, 0.73, 0.73)), line(at(0.27, 0.73, 0.73, 0.27))]
}

/** Blocks in steps: down the side the first category and then the last ones, across the top all but the first. */
function layOut(categories: readonly (readonly string[])[]) {
  const across = categories.map((_, i) => i).slice(1)
  const down = [0, ...across.slice(1).reverse()]
  const head = Math.max(...down.flatMap(c => categories[c]!.map(squaresOf))) + 1
  const tall = Math.max(...across.flatMap(c => categories[c]!.map(squaresOf)))
  const xs = new Map<number, number>(),
    ys = new Map<number, number>()
  // Names across the top stand on two levels when they are wide, so that they keep apart.
  const wide = Math.max(1, Math.ceil((tall + 0.4) / 2))
  let x = head
  for (const c of across) {
    xs.set(c, x)
    x += categories[c]!.length * wide + 0.3
  }
  let y = 2
  for (const c of down) {
    ys.set(c, y)
    y += categories[c]!.length + 0.3
  }
  const hasBlock = (row: number, col: number) => row === 0 || row > col
  const cell = (a: Item, b: Item) => {
    // The one that stands down the side: the first category, else the later one.
    const [side, top] = a[0] === 0 || (b[0] !== 0 && a[0] > b[0]) ? [a, b] : [b, a]
    return { col: xs.get(top[0])! + top[1] * wide + (wide - 1) / 2, row: ys.get(side[0])! + side[1] }
  }
  const lines: ScaffoldLine[] = []
  const order: { col: number; row: number }[] = []
  for (const r of down)
    for (const c of across) {
      if (!hasBlock(r, c)) continue
      const [x0, y0] = [xs.get(c)!, ys.get(r)!]
      const [w, h] = [categories[c]!.length * wide, categories[r]!.length]
      for (let i = 0; i <= categories[c]!.length; i++)
        lines.push({ from: [x0 + i * wide, y0], to: [x0 + i * wide, y0 + h], strong: i % categories[c]!.length === 0 })
      for (let j = 0; j <= h; j++) lines.push({ from: [x0, y0 + j], to: [x0 + w, y0 + j], strong: j % h === 0 })
      categories[r]!.forEach((_, j) => categories[c]!.forEach((__, i) => order.push(cell([r, j], [c, i]))))
    }
  const given: CellText[] = [
    ...across.flatMap(c => categories[c]!.map((name, i) => writtenAt(xs.get(c)! + i * wide, i % 2, name))),
    ...down.flatMap(c => categories[c]!.map((name, j) => writtenAt(0, ys.get(c)! + j, name))),
  ]
  const cols = Math.ceil(Math.max(x, ...given.map(g => g.col + squaresOf(g.text))))
  return { cell, order, layout: { cols, rows: Math.ceil(y), lines, given } }
}

function solve(categories: readonly (readonly string[])[], clues: readonly string[]): Step[] {
  const known = new Known(categories.map(c => c.length))
  const steps: Step[] = []
  const name = ([c, i]: Item) => categories[c]![i]!
  const note = (say: string, wanted: readonly Entry[], clue: string) => {
    const entries = wanted.filter(e => {
      const before = known.get(e.a, e.b)
      if (before && before !== e.mark)
        throw notUnderstood(
          clue,
          `contradicts what is known: ${name(e.a)} and ${name(e.b)} ${before === 'yes' ? 'belong together' : 'do not'}`,
        )
      return !before
    })
    entries.forEach(e => known.set(e.a, e.b, e.mark))
    if (entries.length) steps.push({ say, entries })
    return entries.length > 0
  }
  for (const clue of clues) {
    const { a, b, mark } = clueOf(clue, categories)
    note(`Clue: ${name(a)} ${mark === 'yes' ? 'is' : 'is not'} ${name(b)}`, [{ a, b, mark }], clue)
    while (follows(categories, known, (say, entries) => note(say, entries, clue)));
  }
  return steps
}

type Note = (say: string, entries: readonly Entry[]) => boolean

/** Does one thing that follows; false when nothing does. */
function follows(categories: readonly (readonly string[])[], known: Known, note: Note): boolean {
  const items = categories.flatMap((c, i) => c.map((_, j): Item => [i, j]))
  const name = ([c, i]: Item) => categories[c]![i]!
  const others = (a: Item, c: number) => categories[c]!.map((_, j): Item => [c, j])
  for (const a of items)
    for (let c = 0; c < categories.length; c++) {
      if (c === a[0]) continue
      const row = others(a, c)
      const yes = row.find(b => known.get(a, b) === 'yes')
      if (yes) {
        const column = others(yes, a[0])
        const out: Entry[] = [
          ...row.filter(b => b[1] !== yes[1]).map(b => ({ a, b, mark: 'no' as const })),
          ...column.filter(b => b[1] !== a[1]).map(b => ({ a: yes, b, mark: 'no' as const })),
        ]
        if (note(`${name(a)} is ${name(yes)}: nothing else in their row and column`, out)) return true
      }
      const open = row.filter(b => known.get(a, b) !== 'no')
      if (
        !yes &&
        open.length === 1 &&
        note(`Only ${name(open[0]!)} is left for ${name(a)}`, [{ a, b: open[0]!, mark: 'yes' }])
      )
        return true
      if (!open.length) throw notUnderstood(name(a), 'has nothing left that it could be')
    }
  // What two that belong together know of a third.
  for (const a of items)
    for (const b of items) {
      if (a[0] >= b[0] || known.get(a, b) !== 'yes') continue
      for (const c of items) {
        if (c[0] === a[0] || c[0] === b[0]) continue
        const [p, q] = [known.get(a, c), known.get(b, c)]
        if (
          p &&
          !q &&
          note(`${name(a)} is ${name(b)}, and ${p === 'yes' ? 'is' : 'is not'} ${name(c)}`, [{ a: b, b: c, mark: p }])
        )
          return true
        if (
          q &&
          !p &&
          note(`${name(b)} is ${name(a)}, and ${q === 'yes' ? 'is' : 'is not'} ${name(c)}`, [{ a, b: c, mark: q }])
        )
          return true
      }
    }
  return false
}

function clueOf(clue: string, categories: readonly (readonly string[])[]): Entry {
  const not = /\s*(?:≠|!=|<>|\bis not\b|\bisn['’]t\b|\bnot\b|\bdoes not have\b)\s*/i
  const yes = /\s*(?:=|\bis\b|\bhas\b|:|\bgets\b)\s*/i
  const parts = (not.test(clue) ? clue.split(not) : clue.split(yes)).map(p => p.trim())
  if (parts.length !== 2) throw notUnderstood(clue, 'is not a clue', 'Type a clue as Ana = dog, or Ben not cat.')
  const [a, b] = parts.map(p => itemOf(p, categories)) as [Item, Item]
  if (a[0] === b[0]) throw notUnderstood(clue, 'names two of the same category')
  return { a, b, mark: not.test(clue) ? 'no' : 'yes' }
}

function itemOf(text: string, categories: readonly (readonly string[])[]): Item {
  const bare = text.replace(/^(?:the|a|an)\s+/i, '').toLowerCase()
  const found = categories.flatMap((c, i) =>
    c.flatMap((n, j): Item[] => (n.toLowerCase() === bare || n.toLowerCase() === text.toLowerCase() ? [[i, j]] : [])),
  )
  if (found.length !== 1) throw notUnderstood(text, found.length ? 'is in two categories' : 'is not in the grid')
  return found[0]!
}

/**
 * A grid as it is typed: categories parted by bars, then clues: "Ana, Ben, Cora | dog, cat, fish; Ana = dog; Ben not cat".
 * Two categories without clues may be of different lengths: that grid is filled by hand.
 * @throws Trouble `guide-unclear` names what was not understood
 */
export function readLogic(typed: string): Logic | Extract<GuideSpec, { guide: 'elimination' }> {
  const [head = '', ...clues] = typed.split(/\s*;\s*/)
  const categories = head.split('|').map(c => c.split(',').map(t => t.trim()))
  for (const c of categories)
    if (c.some(t => !t))
      throw notUnderstood(head.trim() || ' ', 'has an empty place', 'Type Ana, Ben, Cora | dog, cat, fish.')
  if (categories.length < 2)
    throw notUnderstood(head.trim() || ' ', 'is only one category', 'Type Ana, Ben, Cora | dog, cat, fish.')
  const named = clues.map(c => c.trim()).filter(Boolean)
  const [rows, columns] = categories
  if (categories.length === 2 && !named.length) {
    if (rows!.length > 10 || columns!.length > 10) throw notUnderstood(head, 'has more than ten of a kind')
    return { guide: 'elimination', rows: rows!, columns: columns! }
  }
  if (categories.length > 5) throw notUnderstood(head, 'has more than five categories')
  const size = rows!.length
  for (const c of categories)
    if (c.length !== size || size > 6)
      throw notUnderstood(c.join(', '), size > 6 ? 'are more than six' : `are not ${size}, as in the first category`)
  const spec: Logic = { guide: 'logic', categories, clues: named }
  logicGrid(spec)
  return spec
}
