import { Trouble, type Spot } from '#core/folio'
import { numberAt, WAYS } from '#core/things'
import { freeSpot } from '../board/places'

/** The tally in the hand: a way over a figure, with the numbers that are met on it. */
export const useTally = defineStore('tally', () => {
  const bench = useBench()
  const recording = useRecording()
  /** The tally that goes on, by its id on the board. */
  const current = ref<string | null>(null)
  /** The number that is typed for the next place. */
  const number = ref('')
  const end = () => {
    current.value = null
  }
  watch(() => recording.lasting && recording.desk, end)
  watch(
    () => bench.tool,
    tool => {
      if (tool !== 'tally') end()
    },
    { flush: 'sync' },
  )

  /** Free room of the frame, to the right of a place if there is some. */
  function freePlaceBeside(p: Spot, size: { w: number; h: number }): Spot | null {
    const { x, y, w } = bench.frameBox
    const right = { x: Math.max(p.x + 60, x + w - size.w - 12), y: y + 12 }
    return freeSpot(bench.page, right, at => ({ ...at, ...size }), bench.around())
  }

  /** Takes the number at a place (or the typed one) into the tally. */
  function add(p: Spot) {
    const taken = number.value.trim() || numberAt(bench.words, p) || ''
    const before = bench.board.things.find(t => t.id === current.value)?.thing
    bench.trouble =
      taken || before?.kind === 'tally'
        ? null
        : new Trouble(
            'number-missing',
            'There is no number there.',
            'The board is as it was.',
            'Tap on a number of the page, or type it first.',
          )
    if (bench.trouble) return
    bench.act('adding to the tally', () => {
      if (before?.kind === 'tally')
        recording.desk.change(current.value!, {
          ...before,
          path: [...before.path, p],
          numbers: taken ? [...before.numbers, taken] : before.numbers,
        })
      else {
        const ways = bench.board.things.filter(t => t.thing.kind === 'tally').length
        const size = 9
        const last = bench.board.things.findLast(t => t.thing.kind === 'tally')?.thing
        // Beside the figure, one way under the other.
        const at =
          last?.kind === 'tally'
            ? { x: last.at.x, y: last.at.y + (last.numbers.length + 1) * last.size * 1.7 }
            : (freePlaceBeside(p, { w: size * 13, h: size * 12 }) ?? { x: p.x + 40, y: p.y })
        current.value = recording.desk.place({
          kind: 'tally',
          colour: WAYS[ways % WAYS.length]!,
          path: [p],
          numbers: [taken],
          at,
          size,
        })
      }
    })
    number.value = ''
  }

  return { current, number, add, end }
})
