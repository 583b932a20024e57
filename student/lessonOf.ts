import { decodeLesson, type Lesson } from '../core/lesson/form'

/** The lesson of a section: base64 of deflated bytes, as it stands in the page. @throws LessonTrouble */
export async function lessonIn(section: HTMLElement): Promise<Lesson> {
  const text = section.querySelector('script[type="application/x-orthograph-lesson"]')?.textContent ?? ''
  const packed = Uint8Array.from(atob(text.trim()), c => c.charCodeAt(0))
  const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('deflate-raw'))
  return decodeLesson(new Uint8Array(await new Response(stream).arrayBuffer()))
}
