import { Listing } from '../../core/publish/listing'
import { stateAt } from '../../core/publish/version'
import type { ClassLesson, ClassPage } from '../../core/publish/classPage'
import { Held } from './contents'
import type { Course } from './courses'
import type { ClassSite } from './store'

/** A listing is a few kilobytes; what is larger than this is not one, bytes. */
const LARGEST = 2 * 1024 ** 2
/** Listings that were read lately, by their content; they never change. */
const read = new WeakMap<ClassSite, Held<Listing | null>>()
/** So many publications are read side by side. */
const LANES = 16

/** What stands on a class page at this moment: lessons that students have, and when others open. */
export async function lessonsOn(site: ClassSite, id: string, { name, author }: Course): Promise<ClassPage> {
  const lessons: ClassLesson[] = []
  const ahead: string[] = []
  const publications = await site.courses.lessons(id)
  await Promise.all(
    Array.from({ length: LANES }, async (_, lane) => {
      for (let i = lane; i < publications.length; i += LANES) {
        const found = await lessonOf(site, publications[i]!, id)
        if (typeof found === 'string') ahead.push(found)
        else if (found) lessons.push(found)
      }
    }),
  )
  lessons.sort((a, b) => Date.parse(b.published) - Date.parse(a.published) || (a.address < b.address ? -1 : 1))
  return { name, author, lessons, ahead }
}

/** @returns null where students have nothing of it, or it stands elsewhere; a moment, ISO, where they get it later */
async function lessonOf(site: ClassSite, id: string, course: string): Promise<ClassLesson | string | null> {
  const given = await site.given(id)
  if (!given || given.head.course !== course) return null
  const { head, version, at } = given
  const now = site.now()
  if (!stateAt(version.pages, now)) return version.pages[0]!.from
  const state = stateAt(version.listings, now)
  // A release changes what students have, too.
  const released = state?.from && state.from > at ? state.from : at
  const listing = state ? await listingIn(site, id, state.sha, state.size) : null
  return {
    address: `../../${id}/`,
    published: head.createdAt,
    changed: head.versions.length > 1 || released !== at ? released : head.createdAt,
    listing,
    title: listing?.title ?? version.title,
  }
}

function listingIn(site: ClassSite, id: string, sha: string, size: number): Promise<Listing | null> {
  if (!read.has(site)) read.set(site, new Held(2000, () => 1))
  return read.get(site)!.get(sha, async () => {
    if (size > LARGEST) return null
    const text = (await site.contents.whole(id, sha, size)).toString('utf8')
    try {
      return Listing.parse(JSON.parse(text))
    } catch {
      // Another application's words: the lesson stands there by its title.
      return null
    }
  })
}
