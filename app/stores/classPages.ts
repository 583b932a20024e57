import type { Folio } from '#core/folio'
import { listFolios } from '../data/folios'
import { classPages, openClassPage, renameClassPage, type ClassPageLink } from '../work/classPages'
import type { SitePublication } from '../work/classSite'

/** The pages on which the lessons of a course stand together, each under one address that stays. */
export const useClassPages = defineStore('classPages', () => {
  const settings = useSettings()
  const notices = useNotices()
  /** As the site told them last: they are shown at once, and without a line. */
  const pages = useLocalStorage<ClassPageLink[]>('orthograph-class-pages', [])
  const key = () => settings.remembered.publishingKey
  const soon = () => AbortSignal.timeout(10_000)

  /** Asks the site again, quietly: what was known stays where it cannot be asked. */
  async function refresh() {
    const known = await classPages(key(), soon()).catch(() => null)
    if (known) pages.value = known
  }
  const pageOf = (id: string | null | undefined) => pages.value.find(p => p.id === id)

  /**
   * On which class page a folio stands, or is put on now: the one that it stands on already, else that of its course.
   * @param chosen what was said of it before: a page, null for none
   * @returns null for none: it has no course, is to stand on none, or the site wants its key first
   */
  async function placed(site: SitePublication, folio: Folio, chosen: string | null | undefined, signal: AbortSignal) {
    if (chosen === null) return null
    if (chosen) {
      if (!pageOf(chosen)) await refresh()
      return pageOf(chosen) ?? null
    }
    return folio.course.trim() ? put(site, folio, signal) : null
  }

  /** Puts a folio on the class page of its course. */
  async function put(site: SitePublication, { course, author }: Folio, signal = soon()): Promise<ClassPageLink | null> {
    const opened = await openClassPage({ name: course.trim(), author: author.trim() }, key(), signal)
    if (!opened) return null
    await site.list(opened.id, key())
    await refresh()
    return pageOf(opened.id) ?? opened
  }
  const takeOff = (site: SitePublication) => site.list(null, key())

  /** Asks for another name of a class page, whose address stays. */
  async function rename(page: ClassPageLink) {
    const name = await notices.askLine(
      'Rename the class page',
      'Its address stays, and all lessons on it.',
      'Rename it',
      'Name of the course',
      page.name,
    )
    if (!name?.trim()) return
    try {
      await renameClassPage({ ...page, name: name.trim() }, key(), soon())
      await refresh()
    } catch (error) {
      notices.tell(error, 'renaming the class page')
    }
  }

  /** The other lessons that students have from this browser, those of the same course first. */
  async function lessonsBeside({ id, course }: Folio): Promise<{ title: string; link: string }[]> {
    const { folios } = await listFolios()
    return folios
      .flatMap(f => (f.id !== id && f.published?.current ? [{ ...f, link: f.published.link }] : []))
      .sort((a, b) => Number(b.course === course) - Number(a.course === course) || a.title.localeCompare(b.title))
  }

  return { pages, refresh, pageOf, placed, put, takeOff, rename, lessonsBeside }
})
