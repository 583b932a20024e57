import type { Box } from '../folio/model'
import { ON_DARK } from '../ink/roles'
import { outlineStroke, type Outline, type Stroke } from '../ink/stroke'
import type { Mark } from '../ink/mark'
import type { Board, BoardThing } from '../recording/board'
import { drawThing } from '../things'

/** Paper beyond the edge of the page. */
export const DESK = { ground: '#fbf9f3', rule: '#cfe0ef', every: 14.17 }
export const PAPER = '#ffffff'
export const TRAIL = '#c8331b'
/** A pointer's trail where it has a strength, 0…1: its width in points, and how much covers what is below. */
export const trailPen = (strength: number) => ({ width: 1.5 + 3.5 * strength, alpha: 0.75 * strength })

/**
 * One thing to draw, in page points. A scene is a list of these, and the same list makes the screen, the video, the
 * student page and a handout.
 */
export type Drawing =
  | { kind: 'squares'; box: Box }
  | { kind: 'page'; pageId: string; box: Box }
  /** Ink and things; `done` when nothing of it is still to come. */
  | { kind: 'ink'; key: string; outlines: Outline[]; done: boolean }
  | { kind: 'marks'; key: string; marks: Mark[]; outlines: Outline[]; done: boolean }
  | { kind: 'picture'; key: string; documentId: string; box: Box; done: boolean }
  /** Over everything: all but a box is darkened; a pointer's fading trail as flat x, y, strength. */
  | { kind: 'shade'; box: Box; dark: number }
  | { kind: 'trail'; points: number[] }

/**
 * Where a drawing lies: under everything, on the board, where it stays until the board is another, or over everything
 * for a while.
 * A row for each kind; the compiler asks for it.
 */
export const LAYERS = {
  squares: 'ground',
  page: 'ground',
  ink: 'board',
  marks: 'board',
  picture: 'board',
  shade: 'over',
  trail: 'over',
} as const satisfies Record<Drawing['kind'], 'ground' | 'board' | 'over'>
type In<L> = Extract<
  Drawing,
  { kind: { [K in Drawing['kind']]: (typeof LAYERS)[K] extends L ? K : never }[Drawing['kind']] }
>
export type Ground = In<'ground'>
/** What stays on the board: each is named by a key in the state it is drawn in. */
export type Lasting = In<'board'>
export type Overlay = In<'over'>
export const isGround = (d: Drawing): d is Ground => LAYERS[d.kind] === 'ground'
export const isLasting = (d: Drawing): d is Lasting => LAYERS[d.kind] === 'board'
export const isOverlay = (d: Drawing): d is Overlay => LAYERS[d.kind] === 'over'

export interface Scene {
  /** The part of the page that fills the surface. */
  view: Box
  drawings: Drawing[]
}

/** A scene as what is finished, and what comes after that and still grows, or is there for a while. */
export function parted(scene: Scene): { finished: Scene; growing: (Lasting | Overlay)[] } {
  const growing: (Lasting | Overlay)[] = []
  let n = scene.drawings.length
  for (let d = scene.drawings[n - 1]; d && (isOverlay(d) || (isLasting(d) && !d.done)); d = scene.drawings[--n - 1])
    growing.unshift(d)
  return { finished: { ...scene, drawings: scene.drawings.slice(0, n) }, growing }
}

/** A page as a scene needs it; on dark paper ink is light. */
export interface ScenePage {
  id: string
  width: number
  height: number
  dark?: boolean
  kind?: string
}
export const isDark = (page: ScenePage) => page.dark === true

/** An outline in the colour that its role has on dark paper. */
export const onDark = (outline: Outline): Outline => ({ ...outline, colour: ON_DARK[outline.colour] ?? outline.colour })

/** A mark in the colours it has on dark paper. */
export const markOnDark = (mark: Mark): Mark => ({
  ...mark,
  ...(mark.fill ? { fill: ON_DARK[mark.fill] ?? mark.fill } : {}),
  ...(mark.stroke ? { stroke: ON_DARK[mark.stroke] ?? mark.stroke } : {}),
})

/** Outlines of whole strokes, kept from one scene to the next; growing strokes are never kept. */
export class OutlineCache {
  private readonly whole = new Map<string, { samples: number; outlines: Outline[] }>()
  private readonly things = new Map<string, { version: string; marks: Mark[]; outlines: Outline[] }>()

  of(stroke: Stroke, count: number): Outline[] {
    const samples = stroke.points.length / 4
    if (count < samples) return outlineStroke(stroke, count)
    const kept = this.whole.get(stroke.id)
    if (kept?.samples === samples) return kept.outlines
    const outlines = outlineStroke(stroke)
    this.whole.set(stroke.id, { samples, outlines })
    return outlines
  }

  /** What is drawn of a thing; kept until it changes. */
  ofThing({ id, thing, version, share, ms }: BoardThing): { marks: Mark[]; outlines: Outline[] } {
    const kept = this.things.get(id)
    if (kept?.version === version) return kept
    const { marks, strokes } = drawThing(thing, id, share, ms)
    const made = { version, marks, outlines: strokes.flatMap(({ stroke, count }) => outlineStroke(stroke, count)) }
    if (share >= 1) this.things.set(id, made)
    return made
  }
}

/**
 * What is to be drawn of a board.
 * @param page the page under it
 * @param view what part of the page fills the surface: the frame for students, more for the teacher
 */
export function sceneOf(board: Board, page: ScenePage, view: Box, cache = new OutlineCache()): Scene {
  const dark = isDark(page)
  const outlinesOf = (outlines: Outline[]) => (dark ? outlines.map(onDark) : outlines)
  const items = [
    ...board.strokes.map(({ stroke, count, n, strength }) => ({
      n,
      drawing: {
        kind: 'ink',
        key: softKey(inkKey(stroke.id, count), strength),
        outlines: soft(outlinesOf(cache.of(stroke, count)), strength),
        done: count * 4 >= stroke.points.length && strength === undefined,
      } satisfies Drawing as Drawing,
    })),
    ...board.things.map(item => {
      const done = item.share >= 1 && item.strength === undefined
      const key = softKey(`${item.id}#${item.version}`, item.strength)
      if (item.thing.kind === 'picture')
        return {
          n: item.n,
          drawing: {
            kind: 'picture',
            key,
            documentId: item.thing.documentId,
            box: item.thing.box,
            done,
          } satisfies Drawing as Drawing,
        }
      const { marks, outlines } = cache.ofThing(item)
      return {
        n: item.n,
        drawing: {
          kind: 'marks',
          key,
          marks: soft(dark ? marks.map(markOnDark) : marks, item.strength),
          outlines: soft(outlinesOf(outlines), item.strength),
          done,
        } satisfies Drawing as Drawing,
      }
    }),
  ].sort((a, b) => a.n - b.n)
  return {
    view,
    drawings: [
      { kind: 'squares', box: view },
      { kind: 'page', pageId: page.id, box: { x: 0, y: 0, w: page.width, h: page.height } },
      ...items.map(i => i.drawing),
      ...(board.spot ? [{ kind: 'shade' as const, box: board.spot.box, dark: board.spot.dark }] : []),
      ...(board.trails ?? []).map(t => ({ kind: 'trail' as const, points: t.points })),
    ],
  }
}

/** What comes or goes softly: as much of it as is seen. */
function soft<D extends { alpha?: number }>(all: D[], strength: number | undefined): D[] {
  return strength === undefined ? all : all.map(d => ({ ...d, alpha: (d.alpha ?? 1) * strength }))
}
const softKey = (key: string, strength: number | undefined) =>
  strength === undefined ? key : `${key}*${strength.toFixed(2)}`

/** Names a stroke in the state it is drawn in, so that a surface knows what it has drawn already. */
export function inkKey(strokeId: string, count: number): string {
  return `${strokeId}:${count}`
}
