import { z } from 'zod'
import { send, withPublishingKey } from './siteRequests'

const ClassPageLink = z.object({ id: z.string(), name: z.string(), author: z.string(), link: z.string() })
/** A class page, as it is shown to the teacher. */
export type ClassPageLink = z.infer<typeof ClassPageLink>
const All = z.object({ courses: z.array(ClassPageLink) })
const Opened = ClassPageLink.pick({ id: true, link: true })

const PLACE = '/api/class-site/courses'

/**
 * All class pages of the site.
 * @param key the publishing key, as far as this browser knows it; on the site's own machine none is needed
 * @returns null where the site does not tell them without its key
 * @throws Trouble `site-away`, `site-refused`
 */
export async function classPages(key: string, signal: AbortSignal): Promise<ClassPageLink[] | null> {
  const response = await send('GET', PLACE, {}, withPublishingKey(key), signal, [403], 1)
  return response.status === 403 ? null : All.parse(await response.json()).courses
}

/**
 * The class page of a course and teacher, made where there is none yet.
 * @returns null where the site wants its key first
 * @throws Trouble `site-away`, `site-refused`
 */
export async function openClassPage(
  course: { name: string; author: string },
  key: string,
  signal: AbortSignal,
): Promise<ClassPageLink | null> {
  const response = await send('POST', PLACE, { body: JSON.stringify(course) }, withPublishingKey(key), signal, [403])
  return response.status === 403 ? null : { ...course, ...Opened.parse(await response.json()) }
}

/** Another name for a class page. @throws Trouble `site-away`, `site-refused` */
export async function renameClassPage({ id, name, author }: ClassPageLink, key: string, signal: AbortSignal) {
  await send('PUT', `${PLACE}/${id}`, { body: JSON.stringify({ name, author }) }, withPublishingKey(key), signal)
}
