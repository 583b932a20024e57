import { placingOf, putInUse } from '#core/cut'
import { editionLength } from '#core/edition'
import {
  changed,
  changeOf,
  faultsOf,
  nextChange,
  placeOf,
  putClip,
  withChange,
  framesOf,
  newId,
  newQuestion,
  nextNumber,
  onPage,
  sortByPlace,
  stageOf,
  Trouble,
  type Box,
  type Clip,
  type ClipPlace,
  type Folio,
  type FolioChange,
  type Ledger,
  type Published,
  type Question,
  type Stage,
  type Take,
  type TooLong,
} from '#core/folio'
import { gapsIn, smallestSize, wordsOf } from '#core/questions'
import { clockTime, handedOutBy } from '#core/publish'
import { reachedBy } from '#core/video'
import type { PlacedWord } from '#core/things'
import { acquire, folioLock, isLocked, takeLock } from '../data/locks'
import { loadFolio, saveFolio } from '../data/folios'
import { publicationsOf, type Publication } from '../data/publications'
import { noteFinished, putTake, takesOfFolio, unreadableTakes } from '../data/takes'
import { textOfPage } from '../paper/pageStore'
import { giveTake } from '../work/giveTake'
import type { FinishedTake } from '../work/liveTake'

const NOT_REACHED = { rendered: new Set<string>(), published: new Set<string>() }
/** What could not be stored is tried again after so long, ms. */
const AGAIN_MS = 3000
/** How many changes can be taken back. */
const MOST_UNDO = 200

/**
 * The folio that is open: its document, what can be undone in it, and what belongs to it. Every change is stored at
 * once;
 * while another tab has the folio open, it can only be read here.
 */
export const useFolio = defineStore('folio', () => {
  const folio = shallowRef<Folio | null>(null)
  const takes = shallowRef<Take[]>([])
  const publications = shallowRef<Publication[]>([])
  const readOnly = ref(false)
  const saving = ref<'saved' | 'saving' | 'failed'>('saved')
  const past = shallowRef<FolioChange[]>([])
  const future = shallowRef<FolioChange[]>([])
  /** The question that is worked at, by its id: undo is about it. Null where the whole folio is in view. */
  const inView = ref<string | null>(null)
  const notices = useNotices()
  let release: (() => void) | null = null
  /** Goes up with every opening and closing, so that one that was overtaken is known. */
  let opens = 0
  let writes: Promise<void> = Promise.resolve()
  let again: ReturnType<typeof setTimeout> | undefined
  /** How often storing has failed since it last held. */
  let refused = 0

  const questions = computed(() => folio.value?.questions ?? [])
  const stages = computed(() => new Map<string, Stage>(questions.value.map(q => [q.id, stageOf(q, reached.value)])))
  const reached = computed(() => (folio.value ? reachedBy(folio.value, publications.value) : NOT_REACHED))

  /** Opens a folio. @returns false when it is not in this browser */
  async function open(id: string): Promise<boolean> {
    if (folio.value?.id === id) return true
    close()
    const own = opens
    const found = await loadFolio(id)
    if (!found) return false
    const lock = await acquire(folioLock(id), { onLost: handedOver })
    // Left again while it was opened: a lock that stays held would keep every other tab from writing.
    if (own !== opens) {
      lock?.()
      return true
    }
    release = lock
    readOnly.value = release === null
    await refresh(id)
    if (own !== opens) return true
    folio.value = found
    tellTooLong(found)
    const bad = await unreadableTakes(id)
    if (bad)
      notices.tell(
        new Trouble(
          'take-damaged',
          `${bad === 1 ? 'One take' : `${bad} takes`} of this folio cannot be read by this version.`,
          `${bad === 1 ? 'It is' : 'They are'} left as ${bad === 1 ? 'it is' : 'they are'}; everything else can be opened.`,
          'Update the application, or record again.',
        ),
        'opening the folio',
      )
    return true
  }

  /** Texts that are longer than they may be, as some versions let them be: they stay, and are named. */
  function tellTooLong(found: Folio) {
    const { tooLong } = faultsOf(found)
    if (!tooLong.length) return
    const names = [...new Set(tooLong.map(l => `${l.what} (at most ${l.most} characters)`))].join('; ')
    notices.tell(
      new Trouble('text-long', `Too long: ${names}.`, 'All of it is kept as it is.', 'Shorten it where it stands.'),
      'opening the folio',
    )
  }

  /** Another tab has taken over: this one only reads from now on. */
  function handedOver() {
    release = null
    readOnly.value = true
    notices.say('This folio was taken over in another tab. Here it can be read.')
  }

  /** Makes this tab the one that writes. A take that runs in the other one is not interrupted. */
  async function takeOver() {
    const id = folio.value?.id
    if (!id || !readOnly.value) return
    const running = (await takesOfFolio(id)).filter(t => t.state === 'recording')
    for (const take of running) {
      if (await isLocked(takeLock(take.id)))
        return notices.tell(
          new Trouble(
            'take-running',
            'A take is running in the other tab.',
            'It goes on undisturbed.',
            'Stop it there, then take over.',
          ),
          'taking over',
        )
    }
    const own = opens
    const lock = await acquire(folioLock(id), { over: true, onLost: handedOver })
    const found = await loadFolio(id)
    await refresh(id)
    // Left meanwhile, or gone: the lock must not stay.
    if (own !== opens || !found || !lock) return lock?.()
    release = lock
    past.value = []
    future.value = []
    folio.value = found
    readOnly.value = false
  }

  /** Reads takes and publications again. */
  async function refresh(id = folio.value?.id) {
    if (!id) return
    const own = opens
    const [recorded, published] = await Promise.all([takesOfFolio(id), publicationsOf(id)])
    if (own !== opens) return
    takes.value = recorded
    publications.value = published
  }

  function close() {
    opens++
    clearTimeout(again)
    refused = 0
    saving.value = 'saved'
    release?.()
    release = null
    folio.value = null
    takes.value = []
    publications.value = []
    past.value = []
    future.value = []
    readOnly.value = false
  }

  /** Changes the folio, remembers how it was, and stores it. */
  function change(label: string, edit: (draft: Folio) => void) {
    if (!folio.value || readOnly.value) return
    const before = folio.value
    const next = changed(before, draft => {
      edit(draft)
      draft.updatedAt = new Date().toISOString()
    })
    const { tooLong } = faultsOf(next)
    // What was too long before may stay; nothing becomes so.
    const more = tooLong.length > faultsOf(before).tooLong.length ? tooLong[tooLong.length - 1] : undefined
    if (more) return notices.tell(longTrouble(more), label)
    past.value = [...past.value.slice(1 - MOST_UNDO), changeOf(label, before, next)]
    future.value = []
    put(next)
  }

  function put(next: Folio) {
    folio.value = next
    saving.value = 'saving'
    writes = writes.then(() => write(next))
  }

  /** Stores a state of the folio, unless a later one has come. What cannot be stored is tried again until it can. */
  async function write(next: Folio) {
    if (folio.value !== next || readOnly.value) return
    clearTimeout(again)
    try {
      await saveFolio(next)
      if (folio.value !== next) return
      saving.value = 'saved'
      refused = 0
    } catch (error) {
      if (folio.value !== next) return
      saving.value = 'failed'
      if (!refused++) notices.tell(error, 'saving the folio')
      again = setTimeout(() => {
        if (folio.value === next) writes = writes.then(() => write(next))
      }, AGAIN_MS)
    }
  }

  /** What is being written now is written, or has failed. */
  const stored = () => writes

  const nextUndo = computed(() => nextChange(past.value, inView.value))
  const nextRedo = computed(() => nextChange(future.value, inView.value))

  /**
   * Takes the last change of the question in view back, or brings it back; one that lies elsewhere is named first, with
   * its place.
   */
  async function step(way: 'undo' | 'redo') {
    const [from, to] = way === 'undo' ? [past, future] : [future, past]
    const next = nextChange(from.value, inView.value)
    if (!next || !folio.value || readOnly.value) return
    const { change: taken, elsewhere } = next
    if (elsewhere) {
      const back = way === 'undo' ? 'Take it back there' : 'Bring it back there'
      const text = `Nothing of this question is left to ${way}. The last change was “${taken.label}”, in ${placeOf(taken)}.`
      if ((await notices.ask(way === 'undo' ? 'Undo elsewhere?' : 'Redo elsewhere?', text, back)) === null) return
      if (!from.value.includes(taken) || readOnly.value) return
    }
    from.value = from.value.filter(c => c !== taken)
    to.value = [...to.value, taken]
    put(withChange(folio.value, taken, way))
  }
  const undo = () => void step('undo')
  const redo = () => void step('redo')

  function changeQuestion(id: string, label: string, edit: (question: Question) => void) {
    change(label, draft => {
      const q = draft.questions.find(x => x.id === id)
      if (q) edit(q)
    })
  }

  /**
   * The words that stand in a piece of a page, their size and that of the smallest letters, points (0 when there are
   * none), and the heights between their lines.
   */
  async function wordsIn(
    pageId: string,
    box: Box,
  ): Promise<{ before: string; size: number; letters: number; gaps: number[] }> {
    const page = folio.value?.pages.find(p => p.id === pageId)
    const text = page && folio.value ? await textOfPage(page, folio.value).catch(() => null) : null
    const inside =
      text?.pieces.filter(p => {
        const y = onPage(page!, p.y)
        return p.x + p.w > box.x && p.x < box.x + box.w && y > box.y && y - p.size * 0.7 < box.y + box.h
      }) ?? []
    return {
      before: inside
        .map(p => p.text)
        .join('')
        .replace(/\s+/g, ' ')
        .trim(),
      size: inside[0]?.size ?? Math.min(14, box.h * 0.7),
      letters: smallestSize(inside),
      gaps: page ? gapsIn({ box }, { pieces: inside.map(p => ({ ...p, y: onPage(page, p.y) })) }) : [],
    }
  }
  /** The words that are printed on a page, where they stand now; none on a page without text. */
  async function printedWords(pageId: string): Promise<PlacedWord[]> {
    const page = folio.value?.pages.find(p => p.id === pageId)
    const text = page && folio.value ? await textOfPage(page, folio.value).catch(() => null) : null
    return page && text ? wordsOf(text.pieces).map(w => ({ ...w, y: onPage(page, w.y) })) : []
  }
  /** Adds a question with one region. @returns its id */
  function addQuestion(pageId: string, box: Box): string {
    const id = newId()
    change('add a question', draft => {
      draft.questions.push({ ...newQuestion(nextNumber(draft.questions), pageId, box), id })
      sortByPlace(draft)
    })
    void measureLetters(id, pageId, box)
    return id
  }

  /**
   * Notes how small the letters of a drawn question are and where its lines end, so that its frame can be read; no
   * change of its own for undo.
   */
  async function measureLetters(id: string, pageId: string, box: Box) {
    const { letters, gaps } = await wordsIn(pageId, box)
    const now = folio.value
    if (!letters || !now?.questions.some(q => q.id === id)) return
    const measured = (q: Question): Question => ({ ...q, letters, regions: q.regions.map(r => ({ ...r, gaps })) })
    put({ ...now, questions: now.questions.map(q => (q.id === id ? measured(q) : q)) })
  }

  /** Notes where students find it, and what they have; no change of its own for undo. Null: nowhere any more. */
  function notePublished(published: Published | null) {
    const now = folio.value
    if (!now || readOnly.value) return
    const { published: _, handedOut: __, ...rest } = now
    put(published ? { ...rest, published, handedOut: handedOutBy(published) } : rest)
  }

  function removeQuestion(id: string) {
    change('remove the question', draft => {
      draft.questions = draft.questions.filter(q => q.id !== id)
    })
  }

  function setLedger(questionId: string, label: string, ledger: Ledger) {
    changeQuestion(questionId, label, q => {
      q.ledger = ledger
      q.proofed = false
    })
  }

  /**
   * Makes a new take the question's, or a clip the one of its place; an undo puts the earlier one back in use, and both
   * stay. A take that is in use stays so until she says otherwise.
   * @param quietly she is at work elsewhere, and is told instead of asked
   */
  async function takeDone(done: FinishedTake, quietly = false) {
    const { take } = done
    if (folio.value?.id !== take.folioId || readOnly.value) return giveElsewhere(done)
    takes.value = [...takes.value.filter(t => t.id !== take.id), take]
    if (take.clip) change('record a clip', draft => putClip(draft, take))
    else if (await isChosen(done, quietly)) {
      if (folio.value?.id !== take.folioId || readOnly.value) return giveElsewhere(done)
      changeQuestion(take.questionId, 'record a take', q => {
        const ledger = done.ledgerFor(q)
        if (ledger) putInUse(q, ledger)
        q.proposal = null
      })
    }
    await writes
    // Until the folio is stored with it, the next start offers the take. A note that fails is made up for there.
    if (saving.value === 'saved') await noteFinished(take).catch(() => {})
  }

  /** Whether a take is put in use; she is asked where another one is. */
  async function isChosen({ take, brought, overWritten }: FinishedTake, quietly: boolean): Promise<boolean> {
    const question = questions.value.find(q => q.id === take.questionId)
    if (!question) return false
    const placing = placingOf(take, question, brought, overWritten)
    const of = `question ${question.number}`
    switch (placing) {
      case 'use':
        return true
      case 'empty':
        notices.say(`Nothing was written in the take of ${of}: it is kept under Takes, and not in use.`)
        return false
      case 'stepless': {
        const { step: _, ...whole } = take
        await putTake(whole)
        takes.value = takes.value.map(t => (t.id === take.id ? whole : t))
        notices.say(
          `The step of ${of} that this was recorded for is gone: it is kept under Takes as a take of its own.`,
        )
        return false
      }
      case 'ask': {
        const isUsed = !quietly && (await (question.ledger ? askWhich(question, take) : askEmpty(question)))
        if (!isUsed)
          notices.say(
            question.ledger
              ? `The new take of ${of} is kept beside the one in use: compare them under Takes.`
              : `Nothing was written in the take of ${of}: it is kept under Takes, and not in use.`,
          )
        return isUsed
      }
      default:
        return placing satisfies never
    }
  }
  async function askWhich(question: Question, take: Take): Promise<boolean> {
    const used = takes.value.find(t => t.id === question.ledger?.takeId)
    const lengths = `The one in use lasts ${clockTime(used && question.ledger ? editionLength(question.ledger, used) : 0)}, the new one ${clockTime(take.durationMs)}.`
    const text = `${lengths} Both are kept, and can be compared under Takes.`
    const title = `Question ${question.number} has a take already`
    return (await notices.ask(title, text, 'Use the new take', '', 'Keep the one in use')) !== null
  }
  async function askEmpty(question: Question): Promise<boolean> {
    const title = `Nothing was written for question ${question.number}`
    const text = 'Students would see the page alone while you talk. The take is kept under Takes either way.'
    return (await notices.ask(title, text, 'Use the new take', '', 'Keep it aside')) !== null
  }

  /** The folio was left, or taken over, while the take was put together: it is put in use there, and she is told. */
  async function giveElsewhere(done: FinishedTake) {
    const { take } = done
    if (await isLocked(folioLock(take.folioId))) {
      await noteFinished(take)
      return notices.tell(
        new Trouble(
          'take-waits',
          'A take was put together while its folio is open in another tab.',
          'It is kept beside the other takes of its question.',
          'Load that tab again; under Takes on its Solve screen it can be put in use.',
        ),
        'keeping the take',
      )
    }
    const of = await giveTake(done)
    if (of) notices.say(`The take is kept: ${of}.`)
  }

  /** Changes what is known of a clip, of a question or (null) of the folio; null takes it away. */
  function changeClip(questionId: string | null, place: ClipPlace, label: string, clip: Clip | null) {
    change(label, draft => {
      const of = questionId ? draft.questions.find(q => q.id === questionId) : draft
      if (!of) return
      if (clip) of.clips[place] = clip
      else delete of.clips[place]
    })
  }

  /** The finished takes of a question, oldest first; those of one of its steps alone are that step's. */
  const takesOf = (questionId: string) =>
    takes.value
      .filter(t => t.questionId === questionId && !t.clip && !t.step && t.state !== 'recording')
      .sort((a, b) => a.startedAt.localeCompare(b.startedAt))
  const frames = (question: Question) =>
    folio.value ? framesOf(question, folio.value.pages, folio.value.questions) : []
  const frame = (question: Question) => frames(question)[0] ?? null

  return {
    folio,
    takes,
    publications,
    readOnly,
    saving,
    past,
    future,
    inView,
    nextUndo,
    nextRedo,
    questions,
    stages,
    reached,
    open,
    takeOver,
    stored,
    refresh,
    close,
    change,
    changeQuestion,
    undo,
    redo,
    wordsIn,
    printedWords,
    addQuestion,
    removeQuestion,
    setLedger,
    takeDone,
    notePublished,
    changeClip,
    takesOf,
    frame,
    frames,
  }
})

const longTrouble = ({ what, most }: TooLong) =>
  new Trouble(
    'too-long',
    `This is too long: ${what} has at most ${most} characters.`,
    'Nothing was changed.',
    'Shorten it, or part it.',
  )

/** What is said when a change is wanted while another tab writes. */
export function readOnlyTrouble() {
  return new Trouble(
    'read-only',
    'This folio is open in another tab.',
    'Nothing was changed.',
    'Go on in the other tab, or close it and load this one again.',
  )
}
