import { XMLValidator } from 'fast-xml-parser'
import { describe, expect, it } from 'vitest'
import type { Thing } from '../../core/folio'
import {
  OutlineCache,
  paintMark,
  paintOverlay,
  ScenePainter,
  sceneOf,
  sceneToSvg,
  type Context2D,
} from '../../core/scene'
import { BoardIndex, type TakeEvent } from '../../core/recording'
import { layFigure, readFigure } from '../../core/figures'
import { drawThing, extentOf, reasonPlace } from '../../core/things'
import { ON_DARK, pathSteps } from '../../core/ink'
import { line } from '../support/make'

/** A surface that counts what is done to it. */
function counting(): Context2D & { calls: Record<string, number> } {
  const calls: Record<string, number> = {}
  return new Proxy({ calls } as Context2D & { calls: Record<string, number> }, {
    get: (target, name: string) =>
      name in target
        ? (target as unknown as Record<string, unknown>)[name]
        : () => {
            calls[name] = (calls[name] ?? 0) + 1
          },
    set: (target, name: string, value) => {
      ;(target as unknown as Record<string, unknown>)[name] = value
      return true
    },
  })
}
const page = { id: 'p1', width: 595, height: 842 }
const view = { x: 0, y: 0, w: 400, h: 225 }
const shape: Thing = {
  kind: 'shape',
  shape: 'arrow',
  role: 'working',
  width: 2,
  handles: [
    { x: 10, y: 10 },
    { x: 90, y: 10 },
  ],
}
const guide: Thing = {
  kind: 'guide',
  at: { x: 20, y: 20 },
  cell: 12,
  text: '',
  spec: { guide: 'division', dividend: '863', divisor: '14', places: 0 },
}
const picture: Thing = { kind: 'picture', documentId: 'd7', box: { x: 5, y: 6, w: 70, h: 80 }, name: 'balloon' }
const place = (id: string, t: number, thing: Thing, over = 0): TakeEvent => ({ type: 'place', t, id, thing, over })
const index = new BoardIndex([
  line('a', 0),
  place('s', 200, shape, 400),
  place('g', 700, guide),
  place('p', 800, picture),
  line('b', 900),
])

describe('a scene with things', () => {
  it('draws in the order in which everything came, and tells what is still being drawn', () => {
    const kinds = (t: number) =>
      sceneOf(index.at(t), page, view)
        .drawings.slice(2)
        .map(d => ('key' in d ? `${d.kind}${d.done ? '' : '…'}` : d.kind))
    expect(kinds(300)).toEqual(['ink', 'marks…'])
    expect(kinds(1100)).toEqual(['ink', 'marks', 'marks', 'picture', 'ink'])
  })
  it('is painted on as long as it only grows, and anew when a thing changes', () => {
    const context = counting()
    const painter = new ScenePainter(context, { width: 800, height: 450 })
    const cache = new OutlineCache()
    const paint = (i: BoardIndex, t: number) => painter.paint(sceneOf(i.at(t), page, view, cache), () => undefined)
    paint(index, 750)
    const grounds = context.calls.fillRect
    expect(paint(index, 1100)).toBe(true)
    expect(context.calls.fillRect).toBe(grounds)
    expect(paint(index, 1100)).toBe(false)
    const moved = new BoardIndex([
      line('a', 0),
      place('s', 200, shape),
      { type: 'alter', t: 300, id: 'm', targets: ['s'], matrix: [1, 0, 0, 1, 5, 5] },
    ])
    paint(moved, 400)
    expect(context.calls.fillRect).toBeGreaterThan(grounds!)
  })
  it('shows a picture by its document, where it was put', () => {
    const drawn: unknown[] = []
    const painter = new ScenePainter(counting(), { width: 800, height: 450 })
    painter.paint(sceneOf(index.at(1100), page, view), id =>
      id === 'd7' ? { box: view, draw: (_, box) => drawn.push(box) } : undefined,
    )
    expect(drawn).toEqual([picture.box])
  })
  it('is light on dark paper: every colour of things has its counterpart', () => {
    const dark = sceneOf(index.at(1100), { ...page, dark: true }, view).drawings.flatMap(d =>
      d.kind === 'marks' ? d.marks : [],
    )
    expect(dark.length).toBeGreaterThan(5)
    for (const mark of dark)
      for (const colour of [mark.fill, mark.stroke]) if (colour) expect(Object.values(ON_DARK)).toContain(colour)
  })
  it('makes an SVG that any reader takes, with the same marks', () => {
    const svg = sceneToSvg(sceneOf(index.at(1100), page, view))
    expect(XMLValidator.validate(svg)).toBe(true)
    const marks = sceneOf(index.at(1100), page, view).drawings.flatMap(d => (d.kind === 'marks' ? d.marks : []))
    expect(marks.length).toBeGreaterThan(5)
    for (const mark of marks) expect(svg).toContain(`d="${mark.d}"`)
    const lit = new BoardIndex([place('s', 0, shape), { type: 'spot', t: 10, box: { x: 1, y: 2, w: 3, h: 4 } }])
    expect(XMLValidator.validate(sceneToSvg(sceneOf(lit.at(900), page, view)))).toBe(true)
  })
  it('paints marks, light and trails with the calls of a 2D context', () => {
    const context = counting()
    paintMark(context, {
      d: 'M0 0L10 0Q5 5 0 10C1 1 2 2 3 3Z',
      fill: '#000000',
      stroke: '#ffffff',
      dash: [3, 2],
      x: 4,
      y: 5,
      scale: 0.5,
    })
    expect(context.calls).toMatchObject({
      moveTo: 1,
      lineTo: 1,
      quadraticCurveTo: 1,
      bezierCurveTo: 1,
      closePath: 1,
      fill: 1,
      stroke: 1,
      setLineDash: 1,
      save: 1,
      restore: 1,
    })
    paintOverlay(context, { kind: 'shade', box: { x: 1, y: 1, w: 5, h: 5 }, dark: 0.5 }, view)
    expect(context.calls.fill).toBe(2)
    paintOverlay(context, { kind: 'trail', points: [0, 0, 1, 5, 5, 0.8, 9, 9, 0.6] }, view)
    expect(context.calls.stroke).toBe(3)
  })
})

describe('what things look like', () => {
  const option = {
    kind: 'option' as const,
    label: 'A',
    box: { x: 100, y: 50, w: 40, h: 12 },
    reason: '',
    set: null,
    at: { x: 0, y: 0 },
  }
  it('an option that is out, kept and the answer differ in shape, not only in colour', () => {
    const paths = (['out', 'stays', 'answer'] as const).map(state =>
      drawThing({ ...option, state }, 'o')
        .marks.map(m => m.d.replace(/[-\d. ]+/g, ''))
        .join(),
    )
    expect(new Set(paths).size).toBe(3)
  })
  it('a reason goes beside its option, or below where the next option is in the way', () => {
    const set = { width: 4000, height: 700, depth: 200, equals: null, marks: [], mathml: '' }
    expect(reasonPlace(option.box, set, [])).toMatchObject({ x: 150 })
    expect(reasonPlace(option.box, set, [{ x: 160, y: 50, w: 40, h: 12 }])).toMatchObject({ x: 100 })
    expect(reasonPlace(option.box, set, [{ x: 160, y: 90, w: 40, h: 12 }])).toMatchObject({ x: 150 })
  })
  it('marks on words differ in shape: band, underline, strike, ring, box', () => {
    const shapes = (['band', 'underline', 'strike', 'ring', 'box'] as const).map(mark => {
      const { marks } = drawThing({ kind: 'mark', mark, role: 'given', boxes: [{ x: 10, y: 10, w: 50, h: 12 }] }, 'm')
      return JSON.stringify(pathSteps(marks[0]!.d).map(([, ...c]) => c)) + String(marks[0]!.fill !== undefined)
    })
    expect(new Set(shapes).size).toBe(5)
  })
  it('figures are drawn to their unit: 4 cm are 4 cm', () => {
    const spec = readFigure('rightTriangle', '4 by 3')
    const { marks } = drawThing(
      { kind: 'figure', at: { x: 50, y: 60 }, unit: 28.3465, role: 'working', spec, text: '', sets: {} },
      'f',
    )
    const [a, c] = pathSteps(marks[0]!.d)
      .filter(([k]) => k !== 'Z')
      .map(([, x, y]) => ({ x: x!, y: y! }))
    expect(Math.hypot(c!.x - a!.x, c!.y - a!.y)).toBeCloseTo(4 * 28.3465, 1)
    expect(extentOf(layFigure(spec))).toMatchObject({ w: 4, h: 3 })
  })
})
