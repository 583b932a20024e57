import {
  copyStep,
  dropCopy,
  endsHint,
  guardStretch,
  isRemade,
  joinSteps,
  moveMark,
  moveStep,
  putTightened,
  splitStep,
  stepAt,
  stepName,
  stretchOf,
  strikeStretch,
  tighten,
  tightened,
  tightnessOf,
  trimTo,
  unstrike,
  type Proposal,
} from '#core/cut'
import { editionLength } from '#core/edition'
import { needIn } from '#core/edition/proofing'
import { changed, newId, type Ledger, type Turn } from '#core/folio'
import type { Stretch } from '#core/recording'

/** How near to the edge of a pause what is taken out snaps to it, ms. */
const SNAP_MS = 350

/** What is done to the ledger of the question that is proofed: striking, trimming, ordering, tightening. */
export const useLedger = defineStore('ledger', () => {
  const proof = useProof()
  const folios = useFolio()
  const notices = useNotices()
  const settings = useSettings()
  /** The stretch that is marked to be taken out, take ms. */
  const marked = shallowRef<Stretch | null>(null)
  /** What tightening proposes, while it is asked. */
  const proposals = shallowRef<Proposal[] | null>(null)
  const refused = ref(new Set<string>())

  watch(
    () => proof.question?.id,
    () => {
      marked.value = null
      proposals.value = null
    },
  )

  const edit = <R>(label: string, change: (ledger: Ledger) => R): R | undefined => {
    let result: R | undefined
    proof.changeLedger(label, copy => {
      result = change(copy)
    })
    return result
  }

  /** The edge of a pause in the voice near a moment, or the moment where there is none near. */
  function snapped(t: number): number {
    const edges = proof.speech.flatMap(s => [s.from, s.to])
    const near = edges.reduce((a, b) => (Math.abs(b - t) < Math.abs(a - t) ? b : a), Infinity)
    return Math.abs(near - t) <= SNAP_MS ? near : t
  }

  /** Strikes a step out, or brings it back. @param place in the order of the edition */
  function strikeStep(place = proof.row) {
    const step = proof.rows[place]?.step
    if (!step) return
    const last = !step.struck && proof.edition?.time.steps.every(s => s.step.id === step.id)
    proof.editStep(step.id, step.struck ? 'bring a step back' : 'strike out a step', s => {
      s.struck = !s.struck
      delete s.inkStays
    })
    if (last) notices.say('Nothing of this question is left now. Bring a step back before it is published.')
  }

  /** Whether what was written in a struck step stays. */
  function keepInk(place: number, stays: boolean) {
    const step = proof.rows[place]?.step
    if (step)
      proof.editStep(step.id, stays ? 'leave its ink' : 'take its ink out', s => {
        if (stays) s.inkStays = true
        else delete s.inkStays
      })
  }

  /** The moment of the ledger's own take that is heard, or seen in silence; null in what was recorded later. */
  function ownMoment(): number | null {
    return proof.moment.take === proof.ledger?.takeId ? proof.moment.t : null
  }
  const NOT_OWN = 'This step was recorded once more. It can be struck out whole, or the first version put back.'

  /** Marks where what is taken out begins or ends, at the moment shown. @param exactly not at the nearest pause */
  function mark(side: 'in' | 'out', exactly = false) {
    const here = ownMoment()
    if (here === null) return NOT_OWN
    const t = exactly ? here : snapped(here)
    const other = marked.value ? (side === 'in' ? marked.value.to : marked.value.from) : t
    marked.value = side === 'in' ? { from: t, to: Math.max(t, other) } : { from: Math.min(t, other), to: t }
    return undefined
  }

  /** Takes the marked stretch out. */
  function strikeMarked(inkStays = settings.remembered.inkStays): string | undefined {
    const stretch = marked.value
    if (!stretch || stretch.to - stretch.from < 40)
      return 'Mark where it begins and ends first: drag along the sound, or press [ and ].'
    edit('strike out a stretch', copy => strikeStretch(copy, stretch, inkStays))
    marked.value = null
    tellOfWords(stretch)
    if (proof.edition?.empty)
      return 'Nothing of this question is left now. Bring something back before it is published.'
    return undefined
  }

  /** The words of a step are typed for all of it: where a piece of it goes, they may still say what was taken out. */
  function tellOfWords({ from, to }: Stretch) {
    const { ledger, takeDuration } = proof
    const said = ledger?.steps.filter((s, i) => {
      const own = stretchOf(ledger, i, takeDuration)
      const whole = from <= own.from && to >= own.to
      return s.words.trim() && !s.struck && !isRemade(s) && !whole && own.from < to && own.to > from
    })
    if (said?.length)
      notices.say(
        `The words of ${said.map(s => `“${stepName(s, ledger!.steps.indexOf(s))}”`).join(' and ')} stay as they were typed: see that they do not still say what you took out.`,
      )
  }

  /** Marks the pause or the words at the moment shown: from one edge in the voice to the next. */
  function markHere(): string | undefined {
    const t = ownMoment()
    if (t === null) return NOT_OWN
    const said = proof.speech.find(s => t >= s.from && t < s.to)
    if (said) marked.value = said
    else {
      const before = proof.speech.findLast(s => s.to <= t)
      const after = proof.speech.find(s => s.from > t)
      marked.value = { from: before?.to ?? 0, to: after?.from ?? proof.takeDuration }
    }
    return undefined
  }

  /** Lets tightening leave the marked stretch, or the pause at the moment shown, as it is; or no longer. */
  function protect(): string | undefined {
    if (!marked.value) {
      const why = markHere()
      if (why) return why
    }
    const stretch = marked.value!
    edit('protect a stretch', copy => guardStretch(copy, stretch))
    marked.value = null
    if (proposals.value) propose()
    return undefined
  }
  /** Lets tightening leave a proposed stretch as it is for good. */
  function keepAsIs(proposal: Proposal) {
    edit('protect a stretch', copy => guardStretch(copy, proposal.stretch))
    propose()
  }
  const unguard = (id: string) =>
    edit('protect a stretch no longer', copy => {
      copy.guards = copy.guards?.filter(g => g.id !== id)
    })
  /** Whether much ink that comes or goes at once at a joint does so softly. */
  const softJoints = computed({
    get: () => proof.ledger?.joints !== 'stand',
    set: soft => {
      edit(soft ? 'let ink come softly at joints' : 'let ink stand at once at joints', copy => {
        if (soft) delete copy.joints
        else copy.joints = 'stand'
      })
    },
  })

  const bringBack = (id: string) => edit('bring a stretch back', copy => unstrike(copy, id))
  const setStrikeInk = (id: string, inkStays: boolean) =>
    edit(inkStays ? 'leave its ink' : 'take its ink out', copy => {
      const strike = copy.strikes?.find(s => s.id === id)
      if (strike) strike.inkStays = inkStays
    })

  function trim(side: 'start' | 'end') {
    const t = ownMoment()
    if (t === null) return NOT_OWN
    const done = edit(side === 'start' ? 'trim the start' : 'trim the end', copy =>
      trimTo(copy, snapped(t), side, proof.takeDuration),
    )
    if (done) tellOfWords(side === 'start' ? { from: 0, to: t } : { from: t, to: Infinity })
    return done ? undefined : 'There is nothing to trim here.'
  }
  function split() {
    const t = ownMoment()
    if (t === null) return NOT_OWN
    const at = snapped(t)
    const first = proof.ledger?.steps[stepAt(proof.ledger, at)]?.id
    const done = editWithHint('split a step', (copy, hint) => {
      const second = splitStep(copy, at, proof.takeDuration)
      // What was in the hint stays in it.
      if (second && first && hint.includes(first)) hint.push(second)
      return second
    })
    return done ? undefined : 'A step cannot be split so near to where it begins or ends.'
  }
  const hintNow = () => folios.questions.find(q => q.id === proof.question?.id)?.release?.hint ?? []
  /** Changes the ledger, and with it which steps are in the hint. */
  function editWithHint<R>(label: string, change: (ledger: Ledger, hint: string[]) => R): R | undefined {
    const { question, ledger } = proof
    if (!question || !ledger) return undefined
    const hint = [...hintNow()]
    let result: R | undefined
    const next = changed(ledger, copy => {
      result = change(copy, hint)
    })
    folios.changeQuestion(question.id, label, q => {
      q.ledger = next
      q.proofed = false
      if (q.release?.hint) q.release.hint = hint
    })
    return result
  }

  function join(place = proof.row) {
    const id = proof.rows[place]?.step.id
    if (id && proof.ledger && endsHint(proof.ledger, id, hintNow()))
      return 'One of the two is in the hint and the other is not: joined, students would get both with it. Change the steps of the hint in Publish first.'
    const done = id && edit('join two steps', copy => joinSteps(copy, id))
    return done ? undefined : 'It can be joined with the step after it in the take, when both are struck or neither is.'
  }
  /** Moves the step mark at which the chosen step begins to the moment shown. */
  function moveMarkHere(place = proof.row) {
    const id = proof.rows[place]?.step.id
    const t = ownMoment()
    if (t === null) return NOT_OWN
    const before = id && proof.ledger?.steps[proof.ledger.steps.findIndex(s => s.id === id) - 1]?.id
    const done = id && edit('move a step mark', copy => moveMark(copy, id, snapped(t), proof.takeDuration))
    if (done && before && endsHint(proof.ledger!, before, hintNow()))
      notices.say('The hint ends at this mark: students who have the hint get as much of the way as it says now.')
    return done ? undefined : 'The first step begins where the take begins.'
  }
  /** Moves a step up or down, where none comes to need what is written only after it. @returns why not */
  function move(by: 1 | -1, place = proof.row): string | undefined {
    const { ledger, edition } = proof
    const next = ledger && changed(ledger, copy => void moveStep(copy, place, by))
    const made = next && proof.editionWith(next)
    const need = made && edition && !needIn(edition) && needIn(made)
    if (need) {
      const [step, needs] = [need.step, need.needs].map(s => made.nameOf(s))
      return `“${step}” changes what is written in “${needs}”, and cannot come before it. Nothing was moved.`
    }
    proof.showRow(edit('move a step', copy => moveStep(copy, place, by)) ?? place)
    return undefined
  }
  const copy = (place = proof.row) => edit('copy a step', c => copyStep(c, place))
  const drop = (place: number) => edit('take a copy away', c => dropCopy(c, place))

  /** Changes a pause for the student; null takes it away. */
  function editTurn(id: string, change: Partial<Pick<Turn, 'seconds' | 'hold'>> | null) {
    edit(change ? 'change a pause for the student' : 'take a pause for the student away', l => {
      l.turns = change ? l.turns.map(t => (t.id === id ? { ...t, ...change } : t)) : l.turns.filter(t => t.id !== id)
    })
  }
  /** Asks the student to try at a moment of the take. */
  function addTurn(t: number, seconds: number, hold: number) {
    edit('add a pause for the student', l => {
      l.turns.push({ id: newId(), t: Math.round(t), seconds, hold })
      l.turns.sort((a, b) => a.t - b.t)
    })
  }

  // Tightening

  const strength = computed({
    get: () => settings.remembered.tightness,
    set: value => {
      settings.remembered.tightness = value
      if (proposals.value) propose()
    },
  })
  const tightness = computed(() => tightnessOf(strength.value))
  /** Proposes what could be shorter. */
  function propose() {
    if (!proof.ledger || !proof.take) return
    refused.value = new Set()
    marked.value = null
    proposals.value = tighten(
      proof.ledger,
      proof.takeDuration,
      proof.speech,
      proof.logs[proof.take.id] ?? [],
      tightness.value,
    )
  }
  const wanted = computed(() => proposals.value?.filter(p => !refused.value.has(p.id)) ?? [])
  /** Length of the edition if what is wanted were done, ms. */
  const tightLength = computed(() => {
    const { ledger, take } = proof
    if (!ledger || !take) return 0
    const loose = { ...ledger, strikes: ledger.strikes?.filter(x => !x.pause), paces: [] }
    return Math.max(0, editionLength(loose, take) - wanted.value.reduce((n, p) => n + p.saves, 0))
  })
  function refuse(id: string, no: boolean) {
    const next = new Set(refused.value)
    if (no) next.add(id)
    else next.delete(id)
    refused.value = next
  }
  function takeProposals() {
    const { strikes, paces } = tightened(wanted.value, tightness.value.writing)
    edit('tighten', l => putTightened(l, strikes, paces))
    proposals.value = null
  }
  const loosen = () => edit('loosen', l => putTightened(l, [], []))

  return {
    marked,
    proposals,
    refused,
    wanted,
    strength,
    tightLength,
    snapped,
    strikeStep,
    keepInk,
    mark,
    markHere,
    strikeMarked,
    bringBack,
    setStrikeInk,
    protect,
    keepAsIs,
    unguard,
    softJoints,
    trim,
    split,
    join,
    moveMarkHere,
    move,
    copy,
    drop,
    editTurn,
    addTurn,
    propose,
    refuse,
    takeProposals,
    loosen,
  }
})
