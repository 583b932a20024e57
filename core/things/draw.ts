import type { Box } from '../folio/basics'
import type {
  FigureThing,
  GuideThing,
  LineThing,
  MarkThing,
  OptionThing,
  Spot,
  TallyThing,
  Thing,
  Typeset,
} from '../folio/thing'
import { boxesMeet } from '../geometry'
import { layFigure, type FigureLayout } from '../figures'
import { layGuide, pathsOfCell } from '../guides'
import { arcPath, arrowHead, boxPath, ellipsePath, pathBox, polyline, type Mark } from '../ink/mark'
import { ROLE_STYLES, type PenRole } from '../ink/roles'
import { shapeMarks } from '../ink/straighten'
import type { Stroke } from '../ink/stroke'
import { readDecimal, writeDecimal, withPlaces } from '../maths/exact'
import { lettering, pathOf } from './letters'
import { GRAPHITE, letterColour, RULE } from './style'

/** What is drawn of a thing: marks, then ink of which `count` samples are written. */
export interface ThingDrawing {
  marks: Mark[]
  strokes: { stroke: Stroke; count: number }[]
}

/**
 * Draws a thing.
 * @param share how much of it is drawn, 0…1; @param ms since its drawing began, for what is written by hand
 */
export function drawThing(thing: Thing, id: string, share = 1, ms = Number.POSITIVE_INFINITY): ThingDrawing {
  if (thing.kind === 'line' && thing.hand) return { marks: [], strokes: handStrokes(thing, id, ms) }
  const marks = marksOf(thing)
  return { marks: share >= 1 ? marks : marks.slice(0, Math.ceil(marks.length * share)), strokes: [] }
}

function marksOf(thing: Thing): Mark[] {
  switch (thing.kind) {
    case 'line':
      return setMarks(thing.set, thing.at, thing.size, letterColour(thing.role))
    case 'shape':
      return shapeMarks(thing)
    case 'mark':
      return textMarks(thing)
    case 'option':
      return optionMarks(thing)
    case 'guide':
      return laid(thing, () => guideMarks(thing))
    case 'figure':
      return laid(thing, () => figureMarks(thing))
    case 'tally':
      return tallyMarks(thing)
    case 'picture':
      return []
  }
}

/** Side of the box that stands for what cannot be laid out, points. */
const UNLAID = 40
/**
 * What is laid out from its numbers; where those do not fit (a file from elsewhere), a crossed box stands in its place,
 * and the rest is drawn.
 */
function laid(thing: GuideThing | FigureThing, make: () => Mark[]): Mark[] {
  try {
    return make()
  } catch {
    const { x, y } = thing.at,
      size = UNLAID
    return [
      {
        d: `${boxPath({ x, y, w: size, h: size })}M${x} ${y}L${x + size} ${y + size}M${x + size} ${y}L${x} ${y + size}`,
        stroke: GRAPHITE,
        width: 1,
      },
    ]
  }
}

/** A typeset line with its baseline starting at `at`. */
export function setMarks(set: Typeset, at: { x: number; y: number }, size: number, colour: string): Mark[] {
  return set.marks.map(m => ({ d: m.d, x: at.x, y: at.y, scale: size / 1000, fill: m.colour ?? colour }))
}

function handStrokes(thing: LineThing, id: string, ms: number): { stroke: Stroke; count: number }[] {
  return thing.hand!.flatMap((points, i) => {
    let count = 0
    while (4 * count + 3 < points.length && points[4 * count + 3]! <= ms) count++
    const moved = points.map((v, k) =>
      k % 4 === 0 ? v * thing.size + thing.at.x : k % 4 === 1 ? v * thing.size + thing.at.y : v,
    )
    return count ? [{ stroke: { id: `${id}/${i}`, role: thing.role, tool: 'pen' as const, points: moved }, count }] : []
  })
}

function textMarks({ mark, role, boxes }: MarkThing): Mark[] {
  const style = ROLE_STYLES[role]
  const pen = {
    stroke: style.colour,
    width: Math.max(1.2, Math.min(style.width, 2.4)),
    ...(style.line === 'dashed' ? { dash: [4.4, 2.6] } : {}),
  }
  const level = (share: number) =>
    boxes.map(
      (b): Mark => ({
        d: polyline([
          { x: b.x, y: b.y + b.h * share },
          { x: b.x + b.w, y: b.y + b.h * share },
        ]),
        ...pen,
      }),
    )
  switch (mark) {
    case 'band':
      return boxes.map(b => ({
        d: boxPath({ x: b.x - 1, y: b.y, w: b.w + 2, h: b.h }),
        fill: style.colour,
        alpha: 0.36,
      }))
    case 'underline':
      return level(1.02)
    case 'strike':
      return level(0.55)
    case 'ring':
      return boxes.map(b => ({
        d: ellipsePath(b.x + b.w / 2, b.y + b.h / 2, (b.w / 2) * 1.12 + 5, (b.h / 2) * 1.2 + 3),
        ...pen,
      }))
    case 'box':
      return boxes.map(b => ({ d: boxPath({ x: b.x - 4, y: b.y - 3, w: b.w + 8, h: b.h + 6 }), ...pen }))
  }
}

/** Size of the letters of a reason beside an option, points. */
const REASON = 8.5

/** The rectangle of an option's reason, points. */
export function boxOfReason(set: Typeset, at: Spot): Box {
  const s = REASON / 1000
  return { x: at.x, y: at.y - set.height * s, w: set.width * s, h: (set.height + set.depth) * s }
}
/** How wide an option's reason may be to fit so many points, in thousandths of its letters. */
export const reasonWidth = (points: number): number => Math.round((points / REASON) * 1000)

/** Where an option's reason may stand, the best first: beside it, below it. */
export function reasonPlaces(box: Box, set: Typeset): [beside: Spot, below: Spot] {
  const below = { x: box.x, y: box.y + box.h + (REASON / 1000) * Math.max(800, set.height) + 2 }
  return [{ x: box.x + box.w + 10, y: box.y + box.h * 0.5 + REASON * 0.34 }, below]
}
/** The first of those places where it lies over nothing of what is there; beside the option when it does everywhere. */
export function reasonPlace(box: Box, set: Typeset | null, there: readonly Box[]): Spot {
  if (!set) return { x: box.x, y: box.y }
  const places = reasonPlaces(box, set)
  const isFree = (at: Spot) => {
    const own = boxOfReason(set, at)
    return !there.some(o => boxesMeet(o, own))
  }
  return places.find(isFree) ?? places[0]
}

function optionMarks({ box, state, set, at }: OptionThing): Mark[] {
  const reason = set ? setMarks(set, at, REASON, letterColour(state === 'answer' ? 'answer' : 'aside')) : []
  const aside = ROLE_STYLES.aside.colour,
    answer = ROLE_STYLES.answer.colour
  if (state === 'out')
    return [
      {
        d: polyline([
          { x: box.x - 3, y: box.y + box.h * 0.55 },
          { x: box.x + box.w + 3, y: box.y + box.h * 0.45 },
        ]),
        stroke: aside,
        width: 1.6,
      },
      ...reason,
    ]
  if (state === 'stays')
    return [
      {
        d: polyline([
          { x: box.x - 13, y: box.y + box.h * 0.55 },
          { x: box.x - 10, y: box.y + box.h * 0.85 },
          { x: box.x - 4, y: box.y + box.h * 0.15 },
        ]),
        stroke: ROLE_STYLES.working.colour,
        width: 1.8,
      },
      ...reason,
    ]
  const ring = { x: box.x - 5, y: box.y - 3, w: box.w + 10, h: box.h + 6 }
  // Double, like the pen of the role: it is told apart without its colour.
  return [
    { d: boxPath(ring), stroke: answer, width: 1.3 },
    { d: boxPath({ x: ring.x - 2.4, y: ring.y - 2.4, w: ring.w + 4.8, h: ring.h + 4.8 }), stroke: answer, width: 1.3 },
    ...reason,
  ]
}

function guideMarks({ at, cell, spec }: GuideThing): Mark[] {
  const layout = layGuide(spec)
  const x = (c: number) => at.x + c * cell,
    y = (r: number) => at.y + r * cell
  const lines = layout.lines.flatMap((l): Mark[] => {
    const from = { x: x(l.from[0]), y: y(l.from[1]) },
      to = { x: x(l.to[0]), y: y(l.to[1]) }
    const colour = l.strong ? GRAPHITE : RULE
    return [
      { d: polyline([from, to]), stroke: colour, width: l.strong ? 1.1 : 0.7 },
      ...(l.arrow ? [{ d: arrowHead(from, to, 7), fill: colour }] : []),
    ]
  })
  const areas = (layout.areas ?? []).map(
    (a): Mark => ({
      d: boxPath({ x: x(a.x), y: y(a.y), w: a.w * cell, h: a.h * cell }),
      fill: ROLE_STYLES.working.colour,
      alpha: a.shade,
    }),
  )
  const given = layout.given.map(
    (c): Mark => ({ d: pathOf(pathsOfCell(c, at, cell)), stroke: GRAPHITE, width: Math.max(0.8, cell * 0.06) }),
  )
  return [...areas, ...lines, ...given]
}

function figureMarks({ at, unit, role, spec, sets }: FigureThing): Mark[] {
  const layout = layFigure(spec)
  const { x: x0, y: y0 } = extentOf(layout)
  const px = (p: { x: number; y: number }) => ({ x: at.x + (p.x - x0) * unit, y: at.y + (p.y - y0) * unit })
  const pen = { stroke: letterColour(role), width: 1.4 }
  const lines = layout.lines.flatMap((l): Mark[] => {
    const points = l.points.map(px)
    const style = {
      ...pen,
      ...(l.thin ? { width: 0.8 } : {}),
      ...(l.dashed ? { dash: [4, 3] } : {}),
      ...(l.thin && !l.dashed && spec.figure === 'axes' ? { stroke: RULE } : {}),
    }
    return [
      { d: polyline(points, l.closed), ...style },
      ...(l.arrow
        ? [{ d: arrowHead(points[points.length - 2]!, points[points.length - 1]!, 7), fill: pen.stroke }]
        : []),
    ]
  })
  const circles = layout.circles.map((c): Mark => {
    const p = px(c.at)
    if (c.dot) return { d: ellipsePath(p.x, p.y, Math.max(1.5, c.r * unit)), fill: pen.stroke }
    return {
      d: ellipsePath(p.x, p.y, c.r * unit),
      ...pen,
      ...(c.thin ? { width: 0.8 } : {}),
      ...(c.fill ? { fill: c.fill } : {}),
    }
  })
  const arcs = (layout.arcs ?? []).map((a): Mark => {
    const p = px(a.at)
    return { d: arcPath(p.x, p.y, a.r * unit, a.from, a.to), ...pen, width: 0.9 }
  })
  const labels = layout.labels.flatMap(l => {
    const set = sets[l.text]
    if (!set) return []
    const size = LABEL * (l.size ?? 1)
    const w = (set.width / 1000) * size,
      up = (set.height / 1000) * size,
      down = (set.depth / 1000) * size
    const [ax, ay] = l.align ?? [0, 0]
    const p = px(l.at)
    // −1 puts the label's near end at its place, 0 its middle; further values leave a gap.
    return setMarks(
      set,
      {
        x: p.x - w / 2 - (ax * w) / 2 - Math.sign(ax) * Math.max(0, Math.abs(ax) - 1) * size,
        y: p.y + (up - down) / 2 - (ay * (up + down)) / 2 - Math.sign(ay) * Math.max(0, Math.abs(ay) - 1) * size,
      },
      size,
      letterColour(role),
    )
  })
  return [...lines, ...arcs, ...circles, ...labels]
}

/** Size of a figure's labels, points. */
export const LABEL = 11

/** The rectangle of a figure's lines and circles in its own unit. */
export function extentOf(layout: FigureLayout): Box {
  const points = [
    ...layout.lines.flatMap(l => l.points),
    ...layout.circles.flatMap(c => [
      { x: c.at.x - c.r, y: c.at.y - c.r },
      { x: c.at.x + c.r, y: c.at.y + c.r },
    ]),
  ]
  const xs = points.map(p => p.x),
    ys = points.map(p => p.y)
  const x = Math.min(...xs),
    y = Math.min(...ys)
  return { x, y, w: Math.max(...xs) - x || 1, h: Math.max(...ys) - y || 1 }
}

/** The sums after each number of a tally, exactly. @throws Trouble `number-unclear` */
export function runningTotals(numbers: readonly string[]): string[] {
  let total = { units: 0n, places: 0 }
  return numbers.map(text => {
    const d = readDecimal(text)
    const places = Math.max(d.places, total.places)
    total = { units: withPlaces(total, places).units + withPlaces(d, places).units, places }
    return writeDecimal(total).replace('-', '−')
  })
}

function tallyMarks({ colour, path, numbers, at, size }: TallyThing): Mark[] {
  const totals = runningTotals(numbers)
  const row = size * 1.7
  const marks: Mark[] = []
  // Half as wide as the ring round a number.
  const ring = size
  // The way goes from ring to ring round its numbers, so that nothing of the figure is struck through.
  path.forEach((p, i) => {
    marks.push({ d: ellipsePath(p.x, p.y, ring), stroke: colour, width: 1.4 })
    const from = path[i - 1]
    const far = from ? Math.hypot(p.x - from.x, p.y - from.y) : 0
    if (!from || far < 2.4 * ring) return
    const along = (s: number) => ({ x: from.x + (p.x - from.x) * s, y: from.y + (p.y - from.y) * s })
    const [a, b] = [along((ring + 1) / far), along(1 - (ring + 2) / far)]
    marks.push({ d: polyline([a, b]), stroke: colour, width: 2, alpha: 0.8 }, { d: arrowHead(a, b, 7), fill: colour })
  })
  const wide = Math.max(4, ...numbers.map(t => t.length)) * size * 0.95
  numbers.forEach((text, i) =>
    marks.push(
      lettering(
        `${i && !/^[-−]/.test(text) ? '+ ' : ''}${text.replace(/^-/, '− ')}`,
        { x: at.x, y: at.y + i * row + size },
        size,
        GRAPHITE,
      ),
      lettering(`= ${totals[i]}`, { x: at.x + wide + size * 2, y: at.y + i * row + size }, size, colour),
    ),
  )
  if (numbers.length)
    marks.push({
      d: polyline([
        { x: at.x, y: at.y + numbers.length * row },
        { x: at.x + wide + size * 2 + (totals[totals.length - 1]!.length + 2) * size, y: at.y + numbers.length * row },
      ]),
      stroke: colour,
      width: 1.4,
    })
  return marks
}

/** The rectangle that a thing takes up on its page, points. */
export function boxOfThing(thing: Thing): Box {
  if (thing.kind === 'picture') return thing.box
  if (thing.kind === 'line') {
    const { at, size, set } = thing
    return {
      x: at.x,
      y: at.y - (Math.max(set.height, 600) / 1000) * size,
      w: Math.max(2, (set.width / 1000) * size),
      h: ((Math.max(set.height, 600) + Math.max(set.depth, 150)) / 1000) * size,
    }
  }
  if (thing.kind === 'guide') {
    try {
      const { cols, rows } = layGuide(thing.spec)
      return { ...thing.at, w: cols * thing.cell, h: rows * thing.cell }
    } catch {
      return { ...thing.at, w: UNLAID, h: UNLAID }
    }
  }
  let x0 = Infinity,
    y0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity
  for (const mark of marksOf(thing)) {
    const box = pathBox(mark.d)
    if (!box) continue
    const s = mark.scale ?? 1,
      x = mark.x ?? 0,
      y = mark.y ?? 0
    x0 = Math.min(x0, x + box.x * s)
    x1 = Math.max(x1, x + (box.x + box.w) * s)
    y0 = Math.min(y0, y + box.y * s)
    y1 = Math.max(y1, y + (box.y + box.h) * s)
  }
  return x0 <= x1 ? { x: x0, y: y0, w: Math.max(1, x1 - x0), h: Math.max(1, y1 - y0) } : { x: 0, y: 0, w: 1, h: 1 }
}

/** The role in which a thing is drawn, for exports that know roles. */
export function roleOf(thing: Thing): PenRole {
  return 'role' in thing ? thing.role : thing.kind === 'option' && thing.state === 'answer' ? 'answer' : 'aside'
}
