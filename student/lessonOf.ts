import { decodeLesson, type Lesson } from '../core/lesson/form'
import { fromBase64, inflated } from '../core/lesson/handIn'

/** The lesson of a section: base64 of deflated bytes, as it stands in the page. @throws LessonTrouble */
export async function lessonIn(section: HTMLElement): Promise<Lesson> {
  const text = section.querySelector('script[type="application/x-orthograph-lesson"]')?.textContent ?? ''
  return decodeLesson(await inflated(fromBase64(text)))
}
