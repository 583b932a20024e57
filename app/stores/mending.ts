import { MendDesk } from '#core/edition/proofing'
import type { Mend } from '#core/folio'
import { kindOf } from '#core/recording'

/** Mending what was recorded, with the tools of Solve, on the board as it stands at the moment shown in Proof. */
export const useMending = defineStore('mending', () => {
  const proof = useProof()
  const recording = useRecording()
  const folios = useFolio()
  const bench = useBench()
  const settings = useSettings()
  const on = ref(false)
  let desk: MendDesk | null = null
  /** Whether the next stroke takes the place of what was chosen. */
  const rewriting = ref(false)
  /** Whether something was written anew that can be put elsewhere as well. */
  const repeatable = ref(false)

  const mends = computed(() => proof.ledger?.mends ?? [])
  /** Mends of what is out of the film: they wait until it is back. */
  const waiting = computed(() => {
    const there = new Set<string>()
    for (const e of proof.edition?.events ?? []) {
      if ('id' in e) there.add(e.id.replace(/~.*$/, ''))
      for (const item of kindOf(e).brings(e)) there.add(item)
    }
    return new Set(mends.value.filter(m => m.events.every(e => 'id' in e && !there.has(e.id))).map(m => m.id))
  })

  /** Begins at the moment shown; what is out of the film cannot be mended. @returns why not */
  function begin(): string | undefined {
    if (!proof.edition || folios.readOnly) return 'This question is open in another tab.'
    if (proof.aside) return 'This is out of the film. Bring it back first, then mend it.'
    if (proof.seen.take !== proof.take?.id)
      return 'This step was recorded anew in another take: record it once more to change it.'
    proof.pause()
    desk = new MendDesk(() => ({ edition: proof.edition!, lesson: proof.time, take: proof.seen.t }), {
      keep(mend: Mend, ends: number) {
        const before = proof.time
        proof.changeLedger(`mend: ${mend.name}`, l => {
          l.mends = [...(l.mends ?? []), mend]
        })
        // What writes itself is shown written.
        if (ends > 0) proof.seek(Math.min(proof.duration, before + ends + 1))
        rewriting.value = false
        repeatable.value = desk?.canRepeat === true
        recording.changes++
      },
      undo: folios.undo,
      redo: folios.redo,
      get canUndo() {
        return folios.past.length > 0
      },
      get canRedo() {
        return folios.future.length > 0
      },
    })
    recording.mendDesk = desk
    bench.question = proof.question
    bench.choose('choose')
    on.value = true
    return undefined
  }

  function end() {
    on.value = repeatable.value = false
    rewriting.value = false
    recording.mendDesk = null
    desk = null
    bench.selection = []
    bench.choose(settings.remembered.role)
  }

  /** The next stroke takes the place, the time and the pace of what is chosen. */
  function writeAnew(): string | undefined {
    const strokes = bench.board.strokes.filter(s => bench.selection.includes(s.of))
    if (!desk || !strokes.length) return 'Choose the ink that is to be written anew first.'
    desk.rewriting = strokes.map(s => s.of)
    bench.choose(strokes[0]!.stroke.role)
    rewriting.value = true
    return undefined
  }

  /** What was written anew last, in place of what is chosen now. */
  function alsoHere(): string | undefined {
    const targets = bench.board.strokes.filter(s => bench.selection.includes(s.of)).map(s => s.of)
    if (!desk?.canRepeat) return 'Write something anew first; then it can be put elsewhere as well.'
    if (!targets.length || !desk.alsoHere(targets)) return 'Choose the ink in whose place it is to stand as well.'
    bench.selection = []
    return undefined
  }
  const drop = (id: string) =>
    proof.changeLedger('take a mend back', l => {
      l.mends = l.mends?.filter(m => m.id !== id)
    })

  // Another moment is another board.
  watch(
    () => proof.time,
    () => {
      if (on.value) recording.changes++
    },
  )
  watch(() => proof.question?.id, end)

  return { on, mends, waiting, rewriting, repeatable, begin, end, writeAnew, alsoHere, drop }
})
