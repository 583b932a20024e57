import type { Box } from '../folio/model'
import { ON_DARK } from '../ink/roles'
import { outlineStroke, type Outline, type Stroke } from '../ink/stroke'
import type { Board } from '../take/board'

/** Paper beyond the edge of the page. */
export const DESK = { ground: '#fbf9f3', rule: '#cfe0ef', every: 14.17 }
export const PAPER = '#ffffff'

/**
 * One thing to draw, in page points. A scene is a list of these, and the same list makes the screen, the video, the
 * student page and a handout.
 */
export type Drawing =
  | { kind: 'squares', box: Box }
  | { kind: 'page', pageId: string, box: Box }
  | { kind: 'ink', key: string, outlines: Outline[] }

export interface Scene {
  /** The part of the page that fills the surface. */
  view: Box
  drawings: Drawing[]
}

/** A page as a scene needs it; on dark paper ink is light. */
export interface ScenePage { id: string, width: number, height: number, dark?: boolean, kind?: string }
export const isDark = (page: ScenePage) => page.dark === true

/** An outline in the colour that its role has on dark paper. */
export const onDark = (outline: Outline): Outline => ({ ...outline, colour: ON_DARK[outline.colour] ?? outline.colour })

/** Outlines of whole strokes, kept from one scene to the next; growing strokes are never kept. */
export class OutlineCache {
  private readonly whole = new Map<string, { samples: number, outlines: Outline[] }>()

  of(stroke: Stroke, count: number): Outline[] {
    const samples = stroke.points.length / 4
    if (count < samples) return outlineStroke(stroke, count)
    const kept = this.whole.get(stroke.id)
    if (kept?.samples === samples) return kept.outlines
    const outlines = outlineStroke(stroke)
    this.whole.set(stroke.id, { samples, outlines })
    return outlines
  }
}

/**
 * What is to be drawn of a board.
 * @param page the page under it
 * @param view what part of the page fills the surface: the frame for students, more for the teacher
 */
export function sceneOf(board: Board, page: ScenePage, view: Box, cache = new OutlineCache()): Scene {
  return {
    view,
    drawings: [
      { kind: 'squares', box: view },
      { kind: 'page', pageId: page.id, box: { x: 0, y: 0, w: page.width, h: page.height } },
      ...board.strokes.map(({ stroke, count }): Drawing => ({ kind: 'ink', key: inkKey(stroke.id, count), outlines: isDark(page) ? cache.of(stroke, count).map(onDark) : cache.of(stroke, count) })),
    ],
  }
}

/** Names a stroke in the state it is drawn in, so that a surface knows what it has drawn already. */
export function inkKey(strokeId: string, count: number): string {
  return `${strokeId}:${count}`
}
