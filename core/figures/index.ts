import type { FigureSpec } from '../folio/thing'
import { Trouble } from '../folio/trouble'
import { CIRCUIT, circuitSymbol } from './circuits'
import { dotAndCross, molecule, MOLECULES } from './chemistry'
import { condensed } from './condensed'
import { box, round, triangle } from './shapes'
import { prism, prismNet, pyramid, pyramidNet, regularPolygon, type FigureLayout, type FigureLine } from './solids'

export * from './solids'
export * from './read'
export { CIRCUIT } from './circuits'
export { MOLECULES, OUTER } from './chemistry'

const unknown = (what: string, name: string) =>
  new Trouble(
    'figure-unknown',
    `There is no ${what} “${name}” here.`,
    'What you typed is still there.',
    'Choose one from the list.',
  )

/**
 * A figure laid out in its own unit, y down, with its labels' places.
 * @throws Trouble `figure-unknown`, `scale-unclear`
 */
export function layFigure(spec: FigureSpec): FigureLayout {
  switch (spec.figure) {
    case 'axes':
      return axes(spec)
    case 'polygon':
      return regularPolygon(spec.sides, spec.radius, spec.radii, spec.bisectors, spec.label)
    case 'circle':
      return circle(spec.radius, spec.sectors, spec.label)
    case 'rightTriangle':
      return rightTriangle(spec)
    case 'prism':
      return spec.net ? prismNet(spec.base, spec.sides, spec.height) : prism(spec.base, spec.sides, spec.height)
    case 'pyramid':
      return spec.net ? pyramidNet(spec.side, spec.sides, spec.height) : pyramid(spec.side, spec.sides, spec.height)
    case 'molecule':
      if (Object.hasOwn(MOLECULES, spec.formula)) return spec.dots ? dotAndCross(spec.formula) : molecule(spec.formula)
      if (spec.dots) throw unknown('molecule with its electrons', spec.formula)
      return condensed(spec.formula)
    case 'triangle':
      return triangle(spec)
    case 'round':
      return round(spec)
    case 'box':
      return box(spec)
    case 'forces':
      return forces(spec.arrows)
    case 'circuit':
      if (!Object.hasOwn(CIRCUIT, spec.symbol)) throw unknown('symbol', spec.symbol)
      return circuitSymbol(spec.symbol, spec.label)
    case 'table':
      return table(spec.rows)
  }
}

type Of<K extends FigureSpec['figure']> = Extract<FigureSpec, { figure: K }>

function axes({ x, y, xLabel, yLabel }: Of<'axes'>): FigureLayout {
  const steps = ([from, to, by]: [number, number, number]) => {
    const n = Math.floor((to - from) / by + 1e-9)
    if (!(n >= 1 && n <= 60))
      throw new Trouble(
        'scale-unclear',
        `From ${from} to ${to} in steps of ${by} is not a scale that can be drawn.`,
        'What you typed is still there.',
        'Choose an end above the start and at most 60 steps.',
      )
    return Array.from({ length: n + 1 }, (_, i) => Number((from + i * by).toPrecision(12)))
  }
  const xs = steps(x),
    ys = steps(y)
  // Axes count in steps: one square a step, whatever the step is worth.
  const atX = (v: number) => (v - x[0]) / x[2],
    atY = (v: number) => -(v - y[0]) / y[2]
  const zeroX = atX(Math.min(Math.max(0, x[0]), x[1])),
    zeroY = atY(Math.min(Math.max(0, y[0]), y[1]))
  const [right, top] = [xs.length - 1, -(ys.length - 1)]
  const thin = (points: FigureLine['points']): FigureLine => ({ points, thin: true })
  const number = (v: number) => String(v).replace('-', '−')
  return {
    circles: [],
    lines: [
      ...xs.map(v =>
        thin([
          { x: atX(v), y: 0 },
          { x: atX(v), y: top },
        ]),
      ),
      ...ys.map(v =>
        thin([
          { x: 0, y: atY(v) },
          { x: right, y: atY(v) },
        ]),
      ),
      {
        points: [
          { x: -0.3, y: zeroY },
          { x: right + 0.6, y: zeroY },
        ],
        arrow: true,
      },
      {
        points: [
          { x: zeroX, y: 0.3 },
          { x: zeroX, y: top - 0.6 },
        ],
        arrow: true,
      },
    ],
    labels: [
      ...xs
        .filter(v => v !== 0)
        .map(v => ({ text: number(v), at: { x: atX(v), y: zeroY }, align: [0, -1.3] as const, size: 0.8 })),
      ...ys
        .filter(v => v !== 0)
        .map(v => ({ text: number(v), at: { x: zeroX, y: atY(v) }, align: [1.4, 0] as const, size: 0.8 })),
      ...(xLabel ? [{ text: xLabel, at: { x: right + 0.7, y: zeroY }, align: [-1, 0] as const }] : []),
      ...(yLabel ? [{ text: yLabel, at: { x: zeroX, y: top - 0.7 }, align: [0, 1] as const }] : []),
    ],
  }
}

/** A circle with its sectors one after another, clockwise from the top, in degrees. */
function circle(radius: number, sectors: readonly number[], label: string): FigureLayout {
  let at = -Math.PI / 2
  const spokes: FigureLine[] = [],
    labels: FigureLayout['labels'] = []
  const to = (a: number, r: number) => ({ x: r * Math.cos(a), y: r * Math.sin(a) })
  for (const s of sectors) {
    const next = at + (s * Math.PI) / 180
    spokes.push(
      { points: [{ x: 0, y: 0 }, to(at, radius)], thin: true },
      { points: [{ x: 0, y: 0 }, to(next, radius)], thin: true },
    )
    labels.push({ text: `${s}°`, at: to((at + next) / 2, radius * 0.62), align: [0, 0] })
    at = next
  }
  return {
    lines: spokes,
    circles: [
      { at: { x: 0, y: 0 }, r: radius },
      { at: { x: 0, y: 0 }, r: 0, dot: true },
    ],
    labels: [...labels, ...(label ? [{ text: label, at: { x: 0, y: radius }, align: [0, -1.4] as const }] : [])],
  }
}

/**
 * A right triangle with legs `a` (level) and `b` (upright); labels of a, b and the hypotenuse, angles at the ends of a.
 */
function rightTriangle({ a, b, labels, angles }: Of<'rightTriangle'>): FigureLayout {
  const A = { x: 0, y: 0 },
    C = { x: a, y: 0 },
    B = { x: a, y: -b }
  const s = Math.min(a, b) * 0.14
  const alpha = Math.atan2(b, a)
  const r = Math.min(a, b) * 0.3
  return {
    lines: [
      { points: [A, C, B], closed: true },
      {
        points: [
          { x: a - s, y: 0 },
          { x: a - s, y: -s },
          { x: a, y: -s },
        ],
        thin: true,
      },
    ],
    circles: [],
    arcs: [
      ...(angles[0] ? [{ at: A, r, from: -alpha, to: 0 }] : []),
      ...(angles[1] ? [{ at: B, r, from: Math.PI / 2, to: Math.PI - alpha }] : []),
    ],
    labels: [
      { text: labels[0], at: { x: a / 2, y: 0 }, align: [0, -1.4] as const },
      { text: labels[1], at: { x: a, y: -b / 2 }, align: [-1.2, 0] as const },
      { text: labels[2], at: { x: a / 2, y: -b / 2 }, align: [1.2, 1] as const },
      {
        text: angles[0],
        at: { x: r * 1.5 * Math.cos(alpha / 2), y: -r * 1.5 * Math.sin(alpha / 2) },
        align: [0, 0] as const,
      },
      {
        text: angles[1],
        at: {
          x: a - r * 1.5 * Math.sin((Math.PI / 2 - alpha) / 2),
          y: -b + r * 1.5 * Math.cos((Math.PI / 2 - alpha) / 2),
        },
        align: [0, 0] as const,
      },
    ].filter(l => l.text),
  }
}

/** Forces on a body at one point; lengths to scale, angles as in mathematics. */
function forces(arrows: Of<'forces'>['arrows']): FigureLayout {
  const tip = (angle: number, r: number) => ({
    x: r * Math.cos((angle * Math.PI) / 180),
    y: -r * Math.sin((angle * Math.PI) / 180),
  })
  return {
    lines: arrows.map(f => ({ points: [{ x: 0, y: 0 }, tip(f.angle, f.size)], arrow: true })),
    circles: [{ at: { x: 0, y: 0 }, r: 0, dot: true }],
    labels: arrows
      .filter(f => f.label)
      .map(f => {
        const t = tip(f.angle, f.size),
          len = Math.hypot(t.x, t.y) || 1
        return { text: f.label, at: t, align: [(-t.x / len) * 1.3, (-t.y / len) * 1.3] as const }
      }),
  }
}

/** A ruled table; columns as wide as their longest entry, in letters' widths. */
function table(rows: readonly string[][]): FigureLayout {
  const cols = Math.max(...rows.map(r => r.length))
  const wide = Array.from({ length: cols }, (_, i) => Math.max(2, ...rows.map(r => (r[i] ?? '').length * 0.55 + 1)))
  const xs = wide.reduce<number[]>((at, w) => [...at, at[at.length - 1]! + w], [0])
  const high = 1.6,
    h = rows.length * high,
    w = xs[cols]!
  return {
    circles: [],
    lines: [
      ...xs.map(x => ({
        points: [
          { x, y: 0 },
          { x, y: h },
        ],
      })),
      ...Array.from({ length: rows.length + 1 }, (_, j) => ({
        points: [
          { x: 0, y: j * high },
          { x: w, y: j * high },
        ],
      })),
    ],
    labels: rows.flatMap((r, j) =>
      r.flatMap((text, i) =>
        text ? [{ text, at: { x: (xs[i]! + xs[i + 1]!) / 2, y: (j + 0.5) * high }, align: [0, 0] as const }] : [],
      ),
    ),
  }
}

/** The sources of all labels of a figure, to be typeset as maths lines. */
export function labelsOf(spec: FigureSpec): string[] {
  return [...new Set(layFigure(spec).labels.map(l => l.text))]
}
