import type { Spot } from '../folio/thing'
import type { FigureLayout } from './solids'

/**
 * Simple molecules as they are drawn in class. Places in bond lengths, y down. Shapes and electron pairs after the
 * octet rule (G. N. Lewis,
 * 1916) and valence-shell repulsion, as in any school text; from memory.
 */
interface Molecule {
  atoms: readonly [symbol: string, x: number, y: number][]
  bonds: readonly [from: number, to: number, order: number][]
  /** For each atom, the directions (degrees, clockwise from right) of its lone pairs. */ lone: readonly (readonly number[])[]
}

const d = (deg: number, r = 1) => [r * Math.cos((deg * Math.PI) / 180), r * Math.sin((deg * Math.PI) / 180)] as const
const at = (symbol: string, deg: number, r = 1): [string, number, number] => [symbol, ...d(deg, r)]

export const MOLECULES: Record<string, Molecule> = {
  H2: {
    atoms: [
      ['H', 0, 0],
      ['H', 1, 0],
    ],
    bonds: [[0, 1, 1]],
    lone: [[], []],
  },
  O2: {
    atoms: [
      ['O', 0, 0],
      ['O', 1, 0],
    ],
    bonds: [[0, 1, 2]],
    lone: [
      [135, 225],
      [45, 315],
    ],
  },
  N2: {
    atoms: [
      ['N', 0, 0],
      ['N', 1, 0],
    ],
    bonds: [[0, 1, 3]],
    lone: [[180], [0]],
  },
  Cl2: {
    atoms: [
      ['Cl', 0, 0],
      ['Cl', 1, 0],
    ],
    bonds: [[0, 1, 1]],
    lone: [
      [90, 180, 270],
      [90, 0, 270],
    ],
  },
  HCl: {
    atoms: [
      ['H', 0, 0],
      ['Cl', 1, 0],
    ],
    bonds: [[0, 1, 1]],
    lone: [[], [90, 0, 270]],
  },
  H2O: {
    atoms: [['O', 0, 0], at('H', 37.75), at('H', 142.25)],
    bonds: [
      [0, 1, 1],
      [0, 2, 1],
    ],
    lone: [[235, 305], [], []],
  },
  CO2: {
    atoms: [
      ['O', -1, 0],
      ['C', 0, 0],
      ['O', 1, 0],
    ],
    bonds: [
      [0, 1, 2],
      [1, 2, 2],
    ],
    lone: [[135, 225], [], [45, 315]],
  },
  NH3: {
    atoms: [['N', 0, 0], at('H', 20), at('H', 90), at('H', 160)],
    bonds: [
      [0, 1, 1],
      [0, 2, 1],
      [0, 3, 1],
    ],
    lone: [[270], [], [], []],
  },
  CH4: {
    atoms: [['C', 0, 0], at('H', 0), at('H', 90), at('H', 180), at('H', 270)],
    bonds: [
      [0, 1, 1],
      [0, 2, 1],
      [0, 3, 1],
      [0, 4, 1],
    ],
    lone: [[], [], [], [], []],
  },
  C2H4: {
    atoms: [
      ['C', 0, 0],
      ['C', 1, 0],
      ['H', -0.5, -0.87],
      ['H', -0.5, 0.87],
      ['H', 1.5, -0.87],
      ['H', 1.5, 0.87],
    ],
    bonds: [
      [0, 1, 2],
      [0, 2, 1],
      [0, 3, 1],
      [1, 4, 1],
      [1, 5, 1],
    ],
    lone: [[], [], [], [], [], []],
  },
}

/** Electrons of an atom's outer shell. */
export const OUTER: Record<string, number> = { H: 1, C: 4, N: 5, O: 6, Cl: 7 }
const FILL: Record<string, string> = { H: '#ffffff', C: '#d9d6cd', N: '#dfe6f5', O: '#f7ded8', Cl: '#e3efd9' }

/** Radius of an atom's ball and of its shell, bond lengths. */
const BALL = 0.3
const SHELL = 0.62

/** A molecule: atoms as labelled balls, bonds as lines, lone pairs as two dots. */
export function molecule(formula: string): FigureLayout {
  const m = MOLECULES[formula]!
  const place = (i: number): Spot => ({ x: m.atoms[i]![1], y: m.atoms[i]![2] })
  const lines = m.bonds.flatMap(([a, b, order]) => {
    const p = place(a),
      q = place(b),
      len = Math.hypot(q.x - p.x, q.y - p.y)
    const u = { x: (q.x - p.x) / len, y: (q.y - p.y) / len }
    return Array.from({ length: order }, (_, k) => {
      const off = (k - (order - 1) / 2) * 0.13
      return {
        points: [
          { x: p.x + u.x * BALL - u.y * off, y: p.y + u.y * BALL + u.x * off },
          { x: q.x - u.x * BALL - u.y * off, y: q.y - u.y * BALL + u.x * off },
        ],
      }
    })
  })
  const balls = m.atoms.map(([symbol], i) => ({ at: place(i), r: BALL, fill: FILL[symbol]! }))
  const dots = m.lone.flatMap((pairs, i) =>
    pairs.flatMap(deg => pairOf(place(i), deg, BALL + 0.12).map(p => ({ at: p, r: 0.045, dot: true }))),
  )
  return {
    lines,
    circles: [...balls, ...dots],
    labels: m.atoms.map(([symbol], i) => ({ text: `"${symbol}"`, at: place(i), align: [0, 0] as const })),
  }
}

/** Two places side by side across a direction. */
function pairOf(from: Spot, deg: number, r: number): Spot[] {
  const [x, y] = d(deg, r),
    [u, v] = d(deg + 90, 0.08)
  return [
    { x: from.x + x + u, y: from.y + y + v },
    { x: from.x + x - u, y: from.y + y - v },
  ]
}

/**
 * A dot-and-cross diagram: shells that overlap, with the shared electrons of one atom as dots and of the other as
 * crosses.
 */
export function dotAndCross(formula: string): FigureLayout {
  const m = MOLECULES[formula]!
  const place = (i: number): Spot => ({ x: m.atoms[i]![1], y: m.atoms[i]![2] })
  const dots: Spot[] = [],
    crosses: Spot[] = []
  // Next to one another atoms alternate, so that it can be seen whose an electron is.
  const isDot = m.atoms.map(() => true)
  for (const [a, b] of m.bonds) isDot[b] = !isDot[a]
  m.bonds.forEach(([a, b, order]) => {
    const p = place(a),
      q = place(b),
      mid = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 },
      len = Math.hypot(q.x - p.x, q.y - p.y)
    const u = { x: -(q.y - p.y) / len, y: (q.x - p.x) / len },
      v = { x: u.y, y: -u.x }
    for (let k = 0; k < order; k++) {
      const off = (k - (order - 1) / 2) * 0.2
      for (const [own, side] of [
        [a, -0.06],
        [b, 0.06],
      ] as const)
        (isDot[own] ? dots : crosses).push({ x: mid.x + u.x * off + v.x * side, y: mid.y + u.y * off + v.y * side })
    }
  })
  m.lone.forEach((pairs, i) => pairs.forEach(deg => (isDot[i] ? dots : crosses).push(...pairOf(place(i), deg, SHELL))))
  const cross = (c: Spot) =>
    [
      [-1, -1, 1, 1],
      [-1, 1, 1, -1],
    ].map(([x1, y1, x2, y2]) => ({
      points: [
        { x: c.x + x1! * 0.05, y: c.y + y1! * 0.05 },
        { x: c.x + x2! * 0.05, y: c.y + y2! * 0.05 },
      ],
    }))
  return {
    lines: crosses.flatMap(cross),
    circles: [
      ...m.atoms.map((_, i) => ({ at: place(i), r: SHELL, thin: true })),
      ...dots.map(p => ({ at: p, r: 0.05, dot: true })),
    ],
    labels: m.atoms.map(([symbol], i) => ({ text: `"${symbol}"`, at: place(i), align: [0, 0] as const })),
  }
}
