import { asTrouble, type Folio, type Handed, type Published } from '#core/folio'
import {
  changesSince,
  concernsOf,
  dateAndTime,
  handedNow,
  openedBy,
  redated,
  readHandIn,
  wordsNow,
  type Concern,
  type ReadHandIn,
  type SiteVersion,
} from '#core/publish'
import { notePublished } from '../data/publications'
import { beginPublication, SitePublication, type SiteState } from '../work/classSite'
import { pagePlayer } from '../work/package'

/** A message of the inbox: read, or why it cannot be. */
export type InboxMessage = { id: string; at: string } & ({ read: ReadHandIn; why: null } | { read: null; why: string })

/** The one link under which students find the folio, its versions, and what students write. */
export const useClassSite = defineStore('classSite', () => {
  const store = useFolio()
  const publish = usePublish()
  const notices = useNotices()
  const settings = useSettings()
  const classPages = useClassPages()
  const router = useRouter()
  /** Keys of publications, in this browser alone; who has the folio can make new ones. */
  const kept = useLocalStorage<Record<string, string>>('orthograph-publication-keys', {})
  const keys = {
    get: (id: string) => kept.value[id],
    set: (id: string, key: string) => {
      kept.value = { ...kept.value, [id]: key }
    },
  }
  /** Cuts that were checked, by the names of their content: what is the same is not checked again. */
  const checked = useLocalStorage<string[]>('orthograph-checked', [])
  const published = computed(() => store.folio?.published ?? null)
  const state = shallowRef<SiteState | null>(null)
  /** Why the site could not be asked, in a sentence. */
  const away = ref('')
  const inbox = shallowRef<InboxMessage[]>([])
  const asking = ref(false)

  const current = computed(() => published.value?.versions.find(v => v.id === published.value!.current) ?? null)
  const numberOf = (id: string) => (published.value?.versions.findIndex(v => v.id === id) ?? -1) + 1
  /** What has changed since what students have. */
  const changes = computed(() =>
    current.value && store.folio ? changesSince(current.value, store.folio, publish.recorded) : null,
  )
  const isChanged = computed(() => {
    const c = changes.value
    return !!c && (c.words || c.added.length + c.changed.length + c.removed.length > 0)
  })

  watch(
    () => published.value?.id,
    () => {
      state.value = null
      inbox.value = []
      away.value = ''
    },
  )
  // Who leaves the folio in the middle has not published it: its link could not be noted.
  watch(
    () => store.folio?.id,
    (_, before) => {
      if (before) publish.cancel()
    },
  )

  const at = (known: Pick<Published, 'id' | 'owner'>, signal: AbortSignal) => new SitePublication(known, keys, signal)

  /** Asks what stands under the link, and for messages; quietly, as it is asked whenever Publish is opened. */
  async function refresh() {
    const { folio } = store
    if (!folio?.published || asking.value) return
    asking.value = true
    try {
      const site = at(folio.published, AbortSignal.timeout(10_000))
      const known = published.value
      const now = await site.state()
      if (store.folio?.published?.id !== folio.published.id) return
      state.value = now
      away.value = ''
      // What was published from here while it was asked is newer.
      if (published.value === known && known && (now.current !== known.current || now.link !== known.link))
        store.notePublished({ ...known, current: now.current, link: now.link })
      const messages = await site.messages()
      inbox.value = await Promise.all(messages.map(readMessage))
    } catch (error) {
      away.value = sentence(error)
    } finally {
      asking.value = false
    }
  }

  async function readMessage({ id, at: when, text }: { id: string; at: string; text: string }): Promise<InboxMessage> {
    try {
      return {
        id,
        at: when,
        read: await readHandIn(text, `The message of ${dateAndTime(when)}`, store.folio!),
        why: null,
      }
    } catch (error) {
      return { id, at: when, read: null, why: sentence(error) }
    }
  }

  async function putAway(id: string) {
    const known = published.value
    if (!known) return
    if (store.readOnly) return notices.tell(readOnlyTrouble(), 'putting the message away')
    try {
      await at(known, AbortSignal.timeout(10_000)).removeMessage(id)
      inbox.value = inbox.value.filter(m => m.id !== id)
    } catch (error) {
      notices.tell(error, 'putting the message away')
    }
  }

  const keeper = {
    get remembered() {
      return settings.remembered.publishingKey
    },
    set remembered(value: string) {
      settings.remembered.publishingKey = value
    },
    ask: (again: boolean) =>
      notices.ask(
        again ? 'That key is not right' : 'The publishing key',
        'The class site takes pages from whoever has its key. It was made at the first start on the machine that the application runs on, and stands there in the file .data/publishing-key.',
        'Publish',
        'Key',
      ),
  }

  /** Makes the page as it is now, checks it, and sends it: a version that students have from then on. */
  async function sent(
    own: Pick<Published, 'id' | 'owner'>,
    before: Published | null,
    {
      folio,
      player,
      moment,
      signal,
    }: { folio: Folio; player: SiteVersion['player']; moment: string; signal: AbortSignal },
  ) {
    const site = at(own, signal)
    const { link, course } = await site.state()
    const classPage = await classPages.placed(site, folio, course, signal)
    const pages = await publish.pageFiles(folio, signal, {
      host: {
        takes: true,
        counts: before?.counts ?? false,
        changed: before?.versions.length ? moment : null,
        ...(classPage ? { classPage: { name: classPage.name, address: `../course/${classPage.id}/` } } : {}),
      },
      link,
    })
    const files = new Map(pages.files.map(f => [f.path, f.data instanceof Blob ? f.data : new Blob([f.data])]))
    const known = new Set(checked.value)
    await publish.check(pages, files, folio, signal, known)
    checked.value = [...known].slice(-MOST_CHECKED)
    publish.doing('Sending it')
    return site.publish(pages, {
      title: folio.title,
      player,
      counts: before?.counts ?? false,
      after: before?.current ?? null,
      onProgress: publish.setShare,
    })
  }

  /** Lengths and steps of the solutions, as they were looked at last. */
  let lengths: ReadonlyMap<string, Pick<Handed, 'ms' | 'steps'>> = new Map()
  /** What is worth a look before the next press sends anything, while she is asked. */
  const concerns = shallowRef<readonly Concern[]>([])
  let answerConcerns: ((goOn: boolean) => void) | null = null
  /** Concerns that she has let go out, by what they are about. */
  const letOut = useLocalStorage<string[]>('orthograph-let-out', [])

  /** Looks through what goes out, and asks where something is worth a look. */
  async function mayGoOut(): Promise<boolean> {
    let looked: Looked[] = []
    await publish.during('Looking through what goes out', async () => {
      looked = await lookThrough(current.value?.of ?? [])
    })
    if (!looked.length) return false
    lengths = new Map(looked.map(l => [l.questionId, { ms: l.ms, steps: l.steps }]))
    const named = looked.flatMap(l => l.concerns.map(c => ({ ...c, key: `${l.made} ${c.kind}` })))
    const open = named.filter(c => !letOut.value.includes(c.key))
    if (!open.length) return true
    concerns.value = open
    const goOn = await new Promise<boolean>(resolve => {
      answerConcerns = resolve
    })
    concerns.value = []
    if (goOn) letOut.value = [...letOut.value, ...open.map(c => c.key)].slice(-MOST_CHECKED)
    return goOn
  }
  /** She sends it all the same, or looks first. */
  function settleConcerns(goOn: boolean) {
    answerConcerns?.(goOn)
    answerConcerns = null
  }

  interface Looked {
    questionId: string
    made: string
    ms: number
    steps: number
    concerns: Concern[]
  }
  async function lookThrough(had: readonly Handed[]): Promise<Looked[]> {
    const out: Looked[] = []
    for (const question of publish.recorded) {
      const { edition, soundless } = await publish.looked(question)
      const before = had.find(h => h.questionId === question.id)
      out.push({
        questionId: question.id,
        made: handedNow([question], { pages: [] })[0]!.made,
        ms: edition.duration,
        steps: edition.time.steps.length,
        concerns: concernsOf(question, edition, soundless, before),
      })
    }
    return out
  }

  /** Publishes the folio as it is now: a new version under its link, or its first. */
  async function toStudents() {
    const { folio } = store
    if (!folio || publish.working) return
    if (store.readOnly) return notices.tell(readOnlyTrouble(), 'publishing')
    if (!(await mayGoOut())) return
    await publish.during(published.value ? 'Publishing the changes' : 'Publishing', async signal => {
      const of = handedNow(publish.recorded, folio, lengths)
      const words = wordsNow(folio)
      const videos = publish.freshVideos()
      const moment = new Date().toISOString()
      const before = published.value
      const player = await pagePlayer()
      // What has to be asked is asked first.
      const own = before ?? (await beginPublication(folio.title, player.script, keeper, keys, signal))
      const done = await sent(own, before, { folio, player, moment, signal }).catch((error: unknown) => {
        if (!before)
          void at(own, AbortSignal.timeout(10_000))
            .drop()
            .catch(() => {})
        throw error
      })
      if (store.folio?.id !== folio.id) return
      const version = { id: done.version, at: moment, bytes: done.bytes, of, folio: words }
      const now = published.value
      store.notePublished({
        ...(now ?? { id: own.id, owner: own.owner }),
        link: done.link,
        current: done.version,
        versions: [...(now?.versions ?? []).filter(v => v.id !== done.version), version].slice(-MOST_VERSIONS),
      })
      await notePublished(videos, moment)
      await store.refresh()
      // She may have gone on with her work elsewhere meanwhile.
      if (!router.currentRoute.value.path.endsWith('/publish'))
        notices.say(`Students have version ${numberOf(done.version)} of ${folio.title}.`)
    })
    await refresh()
  }

  /** Gives students another version again, or none. */
  async function show(version: string | null) {
    const known = published.value
    if (!known || publish.working) return
    if (store.readOnly) return notices.tell(readOnlyTrouble(), 'changing what students have')
    const entry = known.versions.find(v => v.id === version)
    const dates = entry ? redated(entry.of, Date.parse(entry.at), store.questions, Date.now()) : null
    if (entry && !(await mayBringBack(entry, dates))) return
    await publish.during(version ? 'Bringing the version back' : 'Taking it from students', async signal => {
      const sent = dates?.map(d => ({ state: d.state, from: d.from === null ? null : new Date(d.from).toISOString() }))
      const current = await at(known, signal).show(version, known.current, sent)
      const { versions } = published.value!
      const isNew = entry && current && !versions.some(v => v.id === current)
      const more = isNew ? [{ ...entry, id: current, at: new Date().toISOString() }] : []
      store.notePublished({ ...published.value!, current, versions: [...versions, ...more].slice(-MOST_VERSIONS) })
    })
    await refresh()
  }

  /** Says what students get with an earlier version by today's dates, before they do. */
  async function mayBringBack(
    { id, of }: Published['versions'][number],
    dates: ReturnType<typeof redated>,
  ): Promise<boolean> {
    const early = openedBy(of, store.questions, Date.now())
    const name = `Version ${numberOf(id)}`
    const when = dates?.[0]?.from
    const text = !early.length
      ? `${name} gives students the questions that it has, by today’s dates.`
      : dates
        ? `Today’s dates stay: of question ${early.join(', ')} students get no more than they do now${when ? `, and nothing of this version before ${dateAndTime(when)}` : ''}.`
        : `${name} is of before dates were kept with versions: it opens question ${early.join(', ')}, which today’s dates hold back.`
    return (await notices.ask('Bring it back?', text, 'Bring it back')) !== null
  }

  /** The class page that the folio stands on. */
  const classPage = computed(() => classPages.pageOf(state.value?.course) ?? null)
  /** Puts the folio on the class page of its course, or takes it off the one that it stands on. */
  async function setClassPage(on: boolean) {
    const { folio } = store
    if (!folio?.published) return
    if (store.readOnly) return notices.tell(readOnlyTrouble(), 'changing the class page')
    const site = at(folio.published, AbortSignal.timeout(10_000))
    try {
      if (!on) await classPages.takeOff(site)
      else if (!(await classPages.put(site, folio)))
        notices.say('The class site wants its key first: publish once more, and type it there.')
    } catch (error) {
      notices.tell(error, 'changing the class page')
    }
    await refresh()
  }

  /** The link is given up: what is published next gets a new one. The site keeps what it has until it is taken away there. */
  function forget() {
    if (store.readOnly) return notices.tell(readOnlyTrouble(), 'giving up the link')
    store.notePublished(null)
  }

  /** Whether plays are counted; holds from the next version on. */
  function count(on: boolean) {
    const known = published.value
    if (known && !store.readOnly) store.notePublished({ ...known, counts: on })
  }

  return {
    published,
    current,
    state,
    away,
    inbox,
    changes,
    concerns,
    settleConcerns,
    isChanged,
    numberOf,
    refresh,
    putAway,
    toStudents,
    show,
    forget,
    count,
    classPage,
    setClassPage,
  }
})

/** As many as a folio keeps; the class site keeps fewer. */
const MOST_VERSIONS = 200
/** So many are remembered. */
const MOST_CHECKED = 2000
const sentence = (error: unknown) => asTrouble(error, 'asking the class site').message
