import { pictureOfStep } from '../core/edition/stepPicture'
import type { Lesson } from '../core/lesson/form'
import { paintStep } from '../core/lesson/paintStep'
import { OutlineCache } from '../core/scene/scene'
import { placeOf } from './dom'
import { placeAt, type Place } from './follow'
import type { Stage } from './stage'

/** Pictures of steps are no larger than this, CSS px. */
const MOST = { width: 250, height: 120, scale: 0.9 }
/** And as sharp as this for paper. */
const DENSITY = 2

/** Marks, among buttons, the one that holds the moment; only what changes is touched, as this happens while ink grows. */
export class Marks {
  private readonly places: Place[]
  private marked = -1

  constructor(private readonly buttons: readonly HTMLElement[]) {
    this.places = buttons.map(placeOf)
  }

  /** The index of the one that holds the moment; -1 for none. */
  at(ms: number): number {
    const found = placeAt(this.places, ms)
    if (found === this.marked) return found
    this.buttons[this.marked]?.removeAttribute('aria-current')
    this.buttons[found]?.setAttribute('aria-current', 'true')
    return (this.marked = found)
  }
}

/** Keeps an element in sight inside what scrolls round it; the page itself stays where it is. */
export function keepInSight(element: HTMLElement | undefined, within: HTMLElement): void {
  if (!element || within.scrollHeight <= within.clientHeight + 1) return
  const [inner, outer] = [element.getBoundingClientRect(), within.getBoundingClientRect()]
  if (inner.top < outer.top) within.scrollTop += inner.top - outer.top
  else if (inner.bottom > outer.bottom) within.scrollTop += Math.min(inner.bottom - outer.bottom, inner.top - outer.top)
}

/** What was written in each step, dark, among what was there before, faint: drawn when the step has been seen. */
export class StepPictures {
  private readonly outlines = new OutlineCache()
  private readonly canvases = new Map<number, HTMLCanvasElement>()

  constructor(
    private readonly lesson: Lesson,
    private readonly stage: Stage,
    private readonly buttons: readonly HTMLElement[],
  ) {}

  /** Draws the picture of a step, once; none where nothing was written. */
  show(i: number): void {
    const { lesson, stage } = this
    const step = lesson.steps[i]
    const button = this.buttons[i]
    if (!step || !button || this.canvases.has(i)) return
    const picture = pictureOfStep(t => stage.index.at(t), step.t, step.to)
    if (!picture.box) return
    const frame = picture.board.frame ?? lesson.first
    const view = lesson.views.find(v => JSON.stringify(v.frame) === JSON.stringify(frame)) ?? lesson.views[0]!
    const scale = Math.min(MOST.scale, MOST.width / picture.box.w, MOST.height / picture.box.h)
    const canvas = document.createElement('canvas')
    this.canvases.set(i, canvas)
    const paint = (image: HTMLImageElement | HTMLCanvasElement | null) =>
      paintStep(
        canvas,
        picture,
        view.page,
        scale * DENSITY,
        image && { picture: image, box: frame.box },
        this.outlines,
        (w, h) => Object.assign(document.createElement('canvas'), { width: w, height: h }),
      )
    paint(stage.printOf(view))
    canvas.className = 'step-picture'
    canvas.style.width = `${Math.round(picture.box.w * scale)}px`
    canvas.setAttribute('aria-hidden', 'true')
    button.append(canvas)
    const path = view.pictures[0]?.path
    if (!path) return
    const image = new Image()
    image.onload = () => paint(image)
    image.src = path
  }

  showAll(): void {
    this.lesson.steps.forEach((_, i) => this.show(i))
  }

  /** Lets go of all pictures; they are drawn again when they are asked for. */
  release(): void {
    for (const canvas of this.canvases.values()) {
      canvas.width = canvas.height = 0
      canvas.remove()
    }
    this.canvases.clear()
  }
}
