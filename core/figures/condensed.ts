import { Trouble } from '../folio/trouble'
import type { FigureLayout } from './solids'

interface Atom {
  symbol: string
  x: number
  y: number
}
interface Structure {
  atoms: Atom[]
  bonds: [from: number, to: number, order: number][]
}
/** Bonds that atoms form in class (usual valences; W. H. Brown and others, any school text). */
const VALENCE: Record<string, number> = { H: 1, F: 1, Cl: 1, Br: 1, I: 1, O: 2, S: 2, N: 3, P: 3, C: 4, Si: 4 }
const MOST_ATOMS = 40

const notRead = (formula: string, why: string) =>
  new Trouble(
    'figure-unclear',
    `“${formula}” is not read as a molecule: ${why}.`,
    'What you typed is still there.',
    'Type its groups one after the other, such as CH3CH2OH, CH2=CH2, CH3COOH or CH3CH(CH3)CH3.',
  )

interface Group {
  symbol: string
  hydrogens: number
  /** Groups on this one, in brackets; a double-bonded oxygen of COOH and CHO. */ side: {
    group: Group
    order: number
  }[]
}

/**
 * A condensed structural formula as atoms at their places: the chain from left to right, hydrogen and side groups
 * above and below.
 * @throws Trouble `figure-unclear` where an atom has not the bonds it forms
 * @example structureOf('CH3CH2OH').atoms.length // 9
 */
export function structureOf(formula: string): Structure {
  const { chain, orders } = chainOf(formula)
  const out: Structure = { atoms: [], bonds: [] }
  const place = (group: Group, x: number, y: number): number => {
    out.atoms.push({ symbol: group.symbol, x, y })
    return out.atoms.length - 1
  }
  const spine = chain.map((g, i) => place(g, i, 0))
  for (let i = 1; i < spine.length; i++) out.bonds.push([spine[i - 1]!, spine[i]!, orders[i - 1]!])
  chain.forEach((group, i) => {
    const free = [[0, -1], [0, 1], ...(i === 0 ? [[-1, 0]] : []), ...(i === chain.length - 1 ? [[1, 0]] : [])] as [
      number,
      number,
    ][]
    const hang = (symbol: string, order: number): [number, number, number] => {
      const to = free.shift()
      if (!to) throw notRead(formula, `${group.symbol} has no room for all that is on it`)
      const at = place({ symbol, hydrogens: 0, side: [] }, i + to[0], to[1])
      out.bonds.push([spine[i]!, at, order])
      return [at, ...to]
    }
    // At an end, hydrogen goes outwards first.
    if (group.hydrogens && (i === 0 || i === chain.length - 1)) free.sort((a, b) => Math.abs(b[0]) - Math.abs(a[0]))
    if (group.side.length) free.sort((a, b) => Math.abs(a[0]) - Math.abs(b[0]))
    for (const { group: side, order } of group.side) {
      const [at, dx, dy] = hang(side.symbol, order)
      const spots = [
        [dx, dy],
        [dy, dx],
        [-dy, -dx],
      ] as [number, number][]
      for (let h = 0; h < side.hydrogens; h++) {
        const [sx, sy] = spots[h] ?? spots[0]!
        const hydrogen = place(
          { symbol: 'H', hydrogens: 0, side: [] },
          i + dx + sx * (dy ? 0.75 : 1),
          dy + sy * (dy && sx ? 0 : 0.9),
        )
        out.bonds.push([at, hydrogen, 1])
      }
    }
    for (let h = 0; h < group.hydrogens; h++) hang('H', 1)
  })
  checkValences(formula, out)
  return out
}

function checkValences(formula: string, { atoms, bonds }: Structure): void {
  if (atoms.length > MOST_ATOMS) throw notRead(formula, `it has more than ${MOST_ATOMS} atoms`)
  atoms.forEach(({ symbol }, i) => {
    const has = bonds.reduce((s, [a, b, order]) => s + (a === i || b === i ? order : 0), 0)
    if (has !== VALENCE[symbol])
      throw notRead(formula, `${symbol} would have ${has} bonds and forms ${VALENCE[symbol]}`)
  })
}

function chainOf(formula: string): { chain: Group[]; orders: number[] } {
  const chain: Group[] = []
  const orders: number[] = []
  let rest = formula.replace(/[–−]/g, '-').replace(/\s/g, '')
  let order = 1
  const begin = (group: Group) => {
    if (chain.length) orders.push(order)
    order = 1
    chain.push(group)
  }
  while (rest) {
    const bond = /^[-=≡#]/.exec(rest)
    if (bond) {
      order = { '-': 1, '=': 2, '≡': 3, '#': 3 }[bond[0]]!
      rest = rest.slice(1)
      continue
    }
    const side = /^\(([A-Z][a-z]?)(H(\d)?)?\)(\d)?/.exec(rest)
    if (side && chain.length) {
      const group = { symbol: side[1]!, hydrogens: side[2] ? Number(side[3] ?? 1) : 0, side: [] }
      for (let n = 0; n < Number(side[4] ?? 1); n++) chain.at(-1)!.side.push({ group, order: 1 })
      rest = rest.slice(side[0].length)
      continue
    }
    const acid = /^(COOH|CO2H|CHO)$/.exec(rest)
    if (acid) {
      begin({
        symbol: 'C',
        hydrogens: acid[1] === 'CHO' ? 1 : 0,
        side: [{ group: { symbol: 'O', hydrogens: 0, side: [] }, order: 2 }],
      })
      if (acid[1] !== 'CHO') begin({ symbol: 'O', hydrogens: 1, side: [] })
      return { chain, orders }
    }
    const group = /^([A-Z][a-z]?)(?:H(\d)?)?(?:(F|Cl|Br|I)(\d)?)?/.exec(rest)
    if (!group || VALENCE[group[1]!] === undefined) throw notRead(formula, `“${rest.slice(0, 6)}” is not understood`)
    const [all, symbol, hydrogens, halogen, count] = group
    const hasH = /^[A-Z][a-z]?H/.test(all)
    // "HCl", "HF": hydrogen begins the chain.
    const own: Group = { symbol: symbol!, hydrogens: hasH && symbol !== 'H' ? Number(hydrogens ?? 1) : 0, side: [] }
    if (halogen)
      for (let n = 0; n < Number(count ?? 1); n++)
        own.side.push({ group: { symbol: halogen, hydrogens: 0, side: [] }, order: 1 })
    begin(own)
    rest = rest.slice(all.length)
  }
  return { chain, orders }
}

/** A molecule from its condensed formula. @throws Trouble `figure-unclear` */
export function condensed(formula: string): FigureLayout {
  const { atoms, bonds } = structureOf(formula)
  return {
    lines: bonds.flatMap(([a, b, order]) => {
      const [p, q] = [atoms[a]!, atoms[b]!]
      const far = Math.hypot(q.x - p.x, q.y - p.y)
      const [ux, uy] = [(q.x - p.x) / far, (q.y - p.y) / far]
      const gap = 0.24
      return Array.from({ length: order }, (_, k) => {
        const off = (k - (order - 1) / 2) * 0.12
        return {
          points: [
            { x: p.x + ux * gap - uy * off, y: p.y + uy * gap + ux * off },
            { x: q.x - ux * gap - uy * off, y: q.y - uy * gap + ux * off },
          ],
        }
      })
    }),
    circles: [],
    labels: atoms.map(a => ({ text: `"${a.symbol}"`, at: { x: a.x, y: a.y }, align: [0, 0] as const })),
  }
}
