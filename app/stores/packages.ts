import {
  calendarOf,
  cartridgeFiles,
  dateAndTime,
  FEED,
  fileName,
  pageAddress,
  questionFileNames,
  shownAt,
} from '#core/publish'
import { handOver, pack, unpacked } from '../work/folioFile'
import { handoutOf } from '../work/handout'
import { siteFiles } from '../work/package'
import { optionsAsSeen } from '../work/print'

/** What is handed over beside the page and the videos: handouts, and files for other software. */
export const usePackages = defineStore('packages', () => {
  const store = useFolio()
  const publish = usePublish()
  const notices = useNotices()
  const settings = useSettings()
  const site = useClassSite()
  const { copy } = useClipboard({ legacy: true })
  /** Where the page stands on another host; '' while that is not known. */
  const elsewhere = computed(() => (store.folio && settings.remembered.addresses[store.folio.id]) ?? '')
  /** Where students find the page: under its link, else on another host. */
  const link = computed(() => site.published?.link || elsewhere.value)

  /** Asks for the page's address on another host: what leads to it from elsewhere has to know it. */
  async function askAddress() {
    const { folio } = store
    if (!folio) return
    const given = await notices.askLine(
      'The page on another host',
      'Where the zip is unpacked, as students type it. Its feed, handouts and course packages lead there.',
      'Keep it',
      'Address',
      elsewhere.value || 'https://',
    )
    if (given === null) return
    const address = pageAddress(given)
    if (address === null) return notices.say(`“${given}” is no address of a page: it begins with https:// or http://.`)
    settings.remembered.addresses = { ...settings.remembered.addresses, [folio.id]: address }
    if (address) notices.say(`Kept: ${address}`)
  }

  /** The page for any web host; where something is released later, also as it is when all is. */
  async function zip() {
    const { folio } = store
    if (!folio) return
    await publish.during('Making the student page', async signal => {
      const site = await publish.pageFiles(folio, signal, { link: elsewhere.value })
      const name = fileName(folio.title, 'folio')
      const later = site.pages.length > 1
      for (const which of later ? (['now', 'whole'] as const) : (['whole'] as const)) {
        publish.doing('Packing the student page')
        const { file, release } = await pack(siteFiles(site, which), publish.setShare, signal)
        // What is checked is read from the packed file.
        const page = which === 'now' ? site.pages[0]! : site.pages.at(-1)!
        try {
          await publish.check({ ...site, pages: [page], cuts: page.cuts }, await unpacked(file), folio, signal)
        } catch (error) {
          release()
          throw error
        }
        handOver(file, `${name}${later ? `-${which}` : ''}.zip`, release)
      }
    })
  }

  /** The folio for other course software: links to its questions, and practice questions. */
  async function cartridge() {
    const { folio } = store
    if (!folio) return
    await publish.during('Making the course package', async signal => {
      const seen = publish.recorded.map(async q => ({ ...q, options: await optionsAsSeen(folio, q) }))
      const files = cartridgeFiles(folio, await Promise.all(seen), link.value)
      const { file, release } = await pack(files, publish.setShare, signal)
      handOver(file, `${fileName(folio.title, 'folio')}.imscc`, release)
    })
  }

  function calendar() {
    const { folio } = store
    const dates = folio && calendarOf(folio, link.value, new Date().toISOString())
    if (dates) handOver(new Blob([dates], { type: 'text/calendar' }), `${fileName(folio.title, 'folio')}.ics`)
    else notices.say('There is no date in it yet: neither a due date in the plan nor a release under Cuts and dates.')
  }

  /** The address that readers of feeds are given; the feed itself stands beside the page. */
  async function feed() {
    if (!link.value)
      return notices.say(`Publish first: the feed then stands under the link, as ${FEED}. It is in the zip, too.`)
    await copy(link.value + FEED)
    notices.say(`Copied: ${link.value + FEED}`)
  }

  /** Makes handouts, one after another, and hands them over. @param wanted questions' ids; null for the whole sheet */
  async function handout(wanted: readonly (string | null)[]) {
    const { folio } = store
    if (!folio || !(await mayHandOut(wanted))) return
    const names = questionFileNames(folio.questions)
    const { handoutInk: ink, handoutColour: colour } = settings.remembered
    await publish.during('Making the handout', async signal => {
      for (const [i, questionId] of wanted.entries()) {
        const onProgress = (v: number) => publish.setShare((i + v) / wanted.length)
        const wish = { questionId, ink, colour, link: link.value, onProgress, signal }
        const file = await handoutOf(folio, publish.recorded, store.takes, wish)
        const name = questionId === null ? fileName(folio.title, 'folio') : names.get(questionId)!
        handOver(file, `${name}-handout.pdf`)
      }
    })
  }

  /** Asks before a handout shows what students do not have yet. */
  async function mayHandOut(wanted: readonly (string | null)[]): Promise<boolean> {
    if (settings.remembered.handoutInk === 'none') return true
    const now = Date.now()
    const early = publish.recorded.filter(
      q => (wanted.includes(null) || wanted.includes(q.id)) && shownAt(q, now).cut !== 'full',
    )
    if (!early.length) return true
    const names = early.map(q => `question ${q.number} (from ${dateAndTime(q.release!.fullFrom!)} on)`).join(', ')
    const text = `Students do not have all of ${names} yet. This handout shows it now.`
    return (await notices.ask('Not released yet', text, 'Make it all the same')) !== null
  }

  return { link, askAddress, zip, cartridge, calendar, feed, handout }
})
