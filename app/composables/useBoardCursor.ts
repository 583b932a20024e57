import type { Box } from '#core/folio'
import type { PenListener } from '../devices/pen'
import { isPen } from '../board/tools'

/** Points that an arrow key moves the cursor; with Shift in large steps. */
const STEP = 6
const LEAP = 36
/** Tools that go over a stretch: Enter begins it, Enter ends it. The others act where Enter is pressed. */
const STRETCHES = new Set(['choose', 'mark', 'light', 'closer', 'pointer'])

/** Works the tools of the board by keys alone: arrows move a cursor, Enter is the pen. Places on the page in points. */
export function useBoardCursor(listener: PenListener, view: Ref<Box>, scale: Ref<number>) {
  const bench = useBench()
  const at = ref<{ x: number, y: number } | null>(null)
  let down = false
  const works = () => !isPen(bench.tool) && bench.tool !== 'eraser' && !bench.draft && !(bench.tool === 'choose' && bench.selection.length > 0)
  const sample = () => ({ x: (at.value!.x - view.value.x) * scale.value, y: (at.value!.y - view.value.y) * scale.value, pressure: 0.5, now: performance.now() })

  function move(dx: number, dy: number) {
    const { x, y, w, h } = bench.frameBox
    at.value = at.value ? { x: at.value.x + dx, y: at.value.y + dy } : { x: x + w * 0.15, y: y + h * 0.45 }
    if (down) listener.move([sample()])
  }
  function act() {
    if (!at.value) return move(0, 0)
    if (down) {
      down = false
      return listener.up()
    }
    listener.down('mouse', sample(), false)
    if (STRETCHES.has(bench.tool)) down = true
    else listener.up()
  }
  /** A pointer that comes back takes the place of the keys. */
  function leave() {
    if (down) listener.up()
    down = false
    at.value = null
  }
  watch(() => bench.tool, leave)

  const arrows = [['ArrowRight', 1, 0], ['ArrowLeft', -1, 0], ['ArrowDown', 0, 1], ['ArrowUp', 0, -1]] as const
  useStageKeys('By keys alone', [
    ...arrows.map(([key, x, y], i) => ({ key, label: i ? '' : 'With a tool in hand: arrows move its cursor, with Shift farther', run: () => move(x * STEP, y * STEP), when: works })),
    ...arrows.map(([key, x, y]) => ({ key: `shift+${key}`, label: '', run: () => move(x * LEAP, y * LEAP), when: works })),
    { key: 'Enter', label: 'Use the tool at the cursor: begin, and end', run: act, when: works },
  ])
  return { at, leave }
}
