import { Trouble, type Box, type OptionThing, type Spot, type Typeset } from '#core/folio'
import { boxOfReason, reasonPlaces, reasonWidth } from '#core/things'
import { freeSpot, inTheWay } from '../board/places'
import { typesetLine } from '../work/typeset'

const NAMES = { out: 'is out', stays: 'stays', answer: 'is the answer' }

/** Options of a multiple-choice question: ruled out with a reason, kept, or taken as the answer. */
export const useOptions = defineStore('options', () => {
  const bench = useBench()
  const recording = useRecording()
  const settings = useSettings()

  const all = computed(() => bench.question?.options ?? [])
  function stateOf(label: string): OptionThing['state'] | 'open' {
    const found =
      bench.board.things.findLast(t => t.thing.kind === 'option' && t.thing.label === label)?.thing ??
      (bench.live ? undefined : bench.held.findLast(h => h.thing.kind === 'option' && h.thing.label === label)?.thing)
    return found?.kind === 'option' ? found.state : 'open'
  }

  /** Rules an option out, keeps it or takes it as the answer; the same again opens it. */
  function setOption(label: string, state: OptionThing['state']) {
    const option = all.value.find(o => o.label.toLowerCase() === label.toLowerCase())
    if (!option) return
    return bench.attempt(async () => {
      const box = option.place?.pageId === bench.page?.id ? option.place?.box : undefined
      if (!box)
        throw new Trouble(
          'option-nowhere',
          `Option ${option.label} has no place on this page.`,
          'The board is as it was.',
          'Find the questions again on the Pages screen, or strike the option out by hand.',
        )
      const before = bench.board.things.findLast(t => t.thing.kind === 'option' && t.thing.label === option.label)
      const reason = settings.remembered.reason.trim()
      // It is one option's own.
      settings.remembered.reason = ''
      const right = bench.frameBox.x + bench.frameBox.w
      const beside = right - (box.x + box.w + 18)
      // A long reason goes on in another row.
      const fit = { width: reasonWidth(beside > 90 ? beside : bench.frameBox.w * 0.4) }
      const set = state !== 'stays' && reason ? await typesetLine(reason, 'mixed', fit) : null
      const thing: OptionThing = {
        kind: 'option',
        label: option.label,
        box: { ...box },
        state,
        reason: set ? reason : '',
        set,
        at: set ? reasonSpot(option.label, box, set) : { x: box.x, y: box.y },
      }
      // Before a take it is held, with its reason; the same again drops it.
      if (!bench.live) return holdOption(thing)
      bench.act('marking the option', () => {
        if (before?.thing.kind === 'option' && before.thing.state === state) recording.desk.erase([before.id])
        else if (before) recording.desk.change(before.id, thing)
        else recording.desk.place(thing, 250)
      })
    })
  }
  /** Where a reason has room of its own: clear of print, of other options and of their reasons. */
  function reasonSpot(label: string, box: Box, set: Typeset): Spot {
    const there = bench.around()
    const others = [
      ...bench.board.things.map(t => t.thing),
      ...(bench.live ? [] : bench.held.map(h => h.thing)),
    ].flatMap(t =>
      t.kind === 'option' && t.label !== label ? [t.box, ...(t.set ? [boxOfReason(t.set, t.at)] : [])] : [],
    )
    const around = { ...there, things: [...there.things, ...others] }
    const places = reasonPlaces(box, set)
    return (
      places.find(at => !inTheWay(boxOfReason(set, at), around)) ??
      freeSpot(null, places[0]!, at => boxOfReason(set, at), around) ??
      places[0]!
    )
  }
  function holdOption(thing: OptionThing) {
    const same = bench.held.findIndex(
      h => h.thing.kind === 'option' && h.thing.label === thing.label && h.thing.state === thing.state,
    )
    if (same >= 0)
      bench.changeHeld('drop a held line', all => {
        all.splice(same, 1)
      })
    else bench.hold(thing, `${thing.label} ${NAMES[thing.state]}${thing.reason ? `: ${thing.reason}` : ''}`)
  }
  const optionAt = (p: Spot) =>
    all.value.find(
      o =>
        o.place?.pageId === bench.page?.id &&
        o.place &&
        p.x >= o.place.box.x - 8 &&
        p.x <= o.place.box.x + o.place.box.w + 8 &&
        p.y >= o.place.box.y - 4 &&
        p.y <= o.place.box.y + o.place.box.h + 4,
    )

  return { all, stateOf, setOption, optionAt }
})
