import type { LessonView } from '../core/lesson/form'
import { paintPrint } from '../core/lesson/print'
import { PAPER } from '../core/scene/scene'

/** A sharp picture of a print is made in these widths times that of the screen, as she goes closer. */
const STEPS = [1, 1.5, 2.2, 3.2, 4.5, 6]
/** And no wider than this, pixels. */
const MOST_WIDTH = 3000
/** Beside that of the screen's own size, so many are kept: one takes 20 MB at most. */
const KEPT = 1

/** Prints, painted once for each closeness and kept: the shapes of a page's letters are many. */
export class Prints {
  private readonly made = new Map<LessonView, Map<number, HTMLCanvasElement>>()

  release(): void {
    for (const known of this.made.values()) for (const canvas of known.values()) canvas.width = canvas.height = 0
    this.made.clear()
  }

  /**
   * A picture of a view's print; null where it has none.
   * @param wanted pixels across that are sharp
   * @param base pixels across of the screen
   */
  of(view: LessonView, wanted: number, base: number): HTMLCanvasElement | null {
    if (!view.print) return null
    const known = this.made.get(view) ?? new Map<number, HTMLCanvasElement>()
    this.made.set(view, known)
    const widths = STEPS.map(s => Math.min(MOST_WIDTH, Math.round(base * s)))
    const width = widths.find(w => w >= wanted) ?? widths.at(-1)!
    const had = known.get(width)
    if (had) return had
    const larger = [...known.keys()].filter(w => w !== widths[0])
    for (const w of larger.slice(0, Math.max(0, larger.length - KEPT + 1))) known.delete(w)
    const canvas = painted(view, width)
    known.set(width, canvas)
    return canvas
  }
}

function painted({ frame: { box }, print }: LessonView, width: number): HTMLCanvasElement {
  const height = Math.round((width * box.h) / box.w)
  const canvas = Object.assign(document.createElement('canvas'), { width, height })
  const context = canvas.getContext('2d', { alpha: false })!
  context.fillStyle = PAPER
  context.fillRect(0, 0, width, height)
  paintPrint(context, print!, width / box.w, data => new Path2D(data))
  return canvas
}
