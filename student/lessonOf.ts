import { inflateSync } from 'fflate'
import { decodeLesson, LessonTrouble, type Lesson } from '../core/lesson/form'
import { fromBase64 } from '../core/lesson/handIn'
import { learnLayouts } from './laid'

/**
 * The lesson of a question: base64 of deflated bytes, as it stands in the page. It is read at once, so that a page that
 * is printed does not wait.
 * @param place of the question, "q1"
 * @throws LessonTrouble
 */
export function lessonIn(place: string): Lesson {
  const text = document.querySelector(`script[data-of="${place}"]`)?.textContent ?? ''
  try {
    const lesson = decodeLesson(inflateSync(fromBase64(text)))
    learnLayouts(lesson)
    return lesson
  } catch (error) {
    throw error instanceof LessonTrouble ? error : new LessonTrouble('damaged')
  }
}
/** Whether the page has come as far as the lesson of a question. */
export const isLessonThere = (place: string): boolean => document.querySelector(`script[data-of="${place}"]`) !== null
