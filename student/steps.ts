import { pictureOfStep } from '../core/edition/stepPicture'
import type { Lesson } from '../core/lesson/form'
import { paintStep } from '../core/lesson/paintStep'
import { OutlineCache } from '../core/scene/scene'
import type { Stage } from './stage'

/** Pictures of steps are no larger than this, CSS px. */
const MOST = { width: 250, height: 120, scale: 0.9 }
/** And as sharp as this for paper. */
const DENSITY = 2

/**
 * What was written in each step, dark, among what was there before, faint: drawn when the step comes near, and all of
 * them before they are printed.
 */
export function stepPictures(lesson: Lesson, stage: Stage, buttons: readonly HTMLElement[]): void {
  const outlines = new OutlineCache()
  const draw = (i: number) => {
    const step = lesson.steps[i]
    const button = buttons[i]
    if (!step || !button || button.querySelector('canvas')) return
    const picture = pictureOfStep(t => stage.index.at(t), step.t, step.to)
    if (!picture.box) return
    const frame = picture.board.frame ?? lesson.first
    const view = lesson.views.find(v => JSON.stringify(v.frame) === JSON.stringify(frame)) ?? lesson.views[0]!
    const scale = Math.min(MOST.scale, MOST.width / picture.box.w, MOST.height / picture.box.h)
    const canvas = document.createElement('canvas')
    const paint = (image: HTMLImageElement | HTMLCanvasElement | null) =>
      paintStep(
        canvas,
        picture,
        view.page,
        scale * DENSITY,
        image && { picture: image, box: frame.box },
        outlines,
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
  const seen = new IntersectionObserver(
    entries => {
      for (const entry of entries)
        if (entry.isIntersecting) {
          seen.unobserve(entry.target)
          draw(buttons.indexOf(entry.target as HTMLElement))
        }
    },
    { rootMargin: '300px' },
  )
  for (const button of buttons) seen.observe(button)
  addEventListener('beforeprint', () => buttons.forEach((_, i) => draw(i)))
}
