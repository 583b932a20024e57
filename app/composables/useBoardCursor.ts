import type { Box, Spot } from '#core/folio'
import { wordBox } from '#core/things'
import type { PenListener } from '../devices/pen'
import { isPen } from '../board/tools'

/** Points that an arrow key moves the cursor; with Shift in large steps. */
const STEP = 6
const LEAP = 36
/** Tools that go over a stretch: Enter begins it, Enter ends it. The others act where Enter is pressed. */
const STRETCHES = new Set(['choose', 'mark', 'light', 'closer', 'pointer'])

/**
 * Works the tools of the board by keys alone: arrows move a cursor, Enter is the pen. Over words it goes from word to
 * word. A pen can be worked
 * so for straight lines and shapes. Places on the page in points.
 */
export function useBoardCursor(listener: PenListener, view: Ref<Box>, scale: Ref<number>) {
  const bench = useBench()
  const lines = useLines()
  let down = false
  const pens = () => isPen(bench.tool) && bench.straight
  const works = () =>
    (pens() || (!isPen(bench.tool) && bench.tool !== 'eraser')) &&
    !lines.draft &&
    !(bench.tool === 'choose' && bench.selection.length > 0)
  const sample = () => ({
    x: (bench.cursor!.x - view.value.x) * scale.value,
    y: (bench.cursor!.y - view.value.y) * scale.value,
    pressure: 0.5,
    now: performance.now(),
  })

  function move(dx: number, dy: number) {
    const { x, y, w, h } = bench.frameBox
    const word = bench.tool === 'mark' ? nextWord(dx, dy) : null
    if (word) bench.cursor = word
    else
      bench.cursor = bench.cursor
        ? { x: bench.cursor.x + dx, y: bench.cursor.y + dy }
        : { x: x + w * 0.15, y: y + h * 0.45 }
    if (down) listener.move([sample()])
  }

  /**
   * The middle of the nearest word of the frame in the direction of an arrow; the first one where there is no cursor
   * yet.
   */
  function nextWord(dx: number, dy: number): Spot | null {
    const { x, y, w, h } = bench.frameBox
    const middles = bench.words
      .map(wordBox)
      .map(b => ({ x: b.x + b.w / 2, y: b.y + b.h / 2 }))
      .filter(m => m.x > x && m.x < x + w && m.y > y && m.y < y + h)
    const from = bench.cursor
    if (!from) return middles.sort((a, b) => a.y - b.y || a.x - b.x)[0] ?? null
    // Along a line of text the next word, across it the nearest of the next line.
    const ahead = middles.filter(m =>
      dx ? Math.sign(dx) * (m.x - from.x) > 1 && Math.abs(m.y - from.y) < 4 : Math.sign(dy) * (m.y - from.y) > 4,
    )
    const far = (m: Spot) => (dx ? Math.abs(m.x - from.x) : Math.abs(m.y - from.y) * 4 + Math.abs(m.x - from.x))
    return ahead.sort((a, b) => far(a) - far(b))[0] ?? null
  }

  function act() {
    if (!bench.cursor) return move(0, 0)
    if (down) {
      down = false
      return listener.up()
    }
    listener.down('mouse', sample(), false)
    if (STRETCHES.has(bench.tool) || pens()) down = true
    else listener.up()
  }
  /** A pointer that comes back takes the place of the keys. */
  function leave() {
    if (down) listener.up()
    down = false
    bench.cursor = null
  }
  watch([() => bench.tool, () => bench.straight], leave)

  const arrows = [
    ['ArrowRight', 1, 0],
    ['ArrowLeft', -1, 0],
    ['ArrowDown', 0, 1],
    ['ArrowUp', 0, -1],
  ] as const
  useStageKeys('By keys alone', [
    ...arrows.map(([key, x, y], i) => ({
      key,
      label: i ? '' : 'With a tool in hand, or a pen and Straight: arrows move its cursor, with Shift farther',
      run: () => move(x * STEP, y * STEP),
      when: works,
    })),
    ...arrows.map(([key, x, y]) => ({
      key: `shift+${key}`,
      label: '',
      run: () => move(x * LEAP, y * LEAP),
      when: works,
    })),
    { key: 'Enter', label: 'Use the tool at the cursor: begin, and end', run: act, when: works },
  ])
  return { leave }
}
