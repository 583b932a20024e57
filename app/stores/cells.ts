import { unionOf, newId, type Spot } from '#core/folio'
import { layGuide, pathsOfCell } from '#core/guides'
import { moveBy, seededRandom, writeByHand, type Stroke } from '#core/ink'
import { boxOfStrokes } from '../board/selection'

/** Writing in the squares of a guide: typed digits go into the chosen one, ink is centred in its own. */
export const useCells = defineStore('cells', () => {
  const bench = useBench()
  const recording = useRecording()
  const settings = useSettings()
  const guides = useGuides()
  /** The square that typed digits go into. */
  const cell = ref<{ col: number; row: number } | null>(null)
  /** Whether she chose the square herself; where a filled-in move ended, digits stay the keys of the pens. */
  const inCell = ref(false)
  let following: { guide: string; col: number; row: number; ids: string[] } | null = null

  watch(
    () => guides.active?.id,
    () => {
      cell.value = null
      inCell.value = false
      following = null
    },
  )
  watch(
    () => guides.written,
    ({ at }) => {
      if (at) cell.value = { ...at }
      inCell.value = false
    },
    { flush: 'sync' },
  )

  /** Goes to the next square in the order of the method; from a square outside it, to the next column. */
  function nextCell(by = 1) {
    inCell.value = true
    const order = guides.layout?.order ?? []
    const i = order.findIndex(c => c.col === cell.value?.col && c.row === cell.value?.row)
    cell.value =
      order[(i + by + order.length) % Math.max(1, order.length)] ??
      (cell.value ? { col: cell.value.col + by, row: cell.value.row } : { col: 0, row: 0 })
  }

  /** Chooses the square under a place of the page, when the active guide is there. */
  function cellAt(p: Spot): boolean {
    const guide = guides.onBoard.find(({ thing }) => {
      const { cols, rows } = layGuide(thing.spec)
      return (
        p.x >= thing.at.x &&
        p.x < thing.at.x + cols * thing.cell &&
        p.y >= thing.at.y &&
        p.y < thing.at.y + rows * thing.cell
      )
    })
    if (!guide) return false
    guides.activeId = guide.id
    inCell.value = true
    cell.value = {
      col: Math.floor((p.x - guide.thing.at.x) / guide.thing.cell),
      row: Math.floor((p.y - guide.thing.at.y) / guide.thing.cell),
    }
    return true
  }

  /** Writes a typed digit or sign into the square, and goes on in the direction of the method. */
  function typeInCell(text: string) {
    const guide = guides.active
    if (!guide) return
    if (!cell.value) nextCell()
    if (!cell.value) return
    const paths = pathsOfCell({ ...cell.value, text, role: bench.role }, guide.thing.at, guide.thing.cell)
    const { strokes } = writeByHand(
      paths,
      { role: bench.role, t0: 0, speed: 130, jitter: 0.15, random: seededRandom(text.charCodeAt(0)) },
      newId,
    )
    bench.act('writing the digit', () => recording.desk.write(strokes))
  }

  /**
   * Ink follows the squares: what was written in a square is centred in it once the pen has gone on to another one, so
   * that nothing moves
   * under the pen.
   */
  function follow(id: string, stroke: Stroke) {
    const guide = guides.active
    if (!guide || !settings.remembered.follow || !['columns', 'division'].includes(guide.thing.spec.guide)) return
    const box = boxOfStrokes([stroke])
    const side = guide.thing.cell
    const at = {
      col: Math.floor((box.x + box.w / 2 - guide.thing.at.x) / side),
      row: Math.floor((box.y + box.h / 2 - guide.thing.at.y) / side),
    }
    const { cols, rows } = layGuide(guide.thing.spec)
    const within =
      at.col >= 0 && at.col < cols && at.row >= 0 && at.row < rows && box.w < 1.2 * side && box.h < 1.3 * side
    if (following && within && following.guide === guide.id && following.col === at.col && following.row === at.row) {
      following.ids.push(id)
      return
    }
    settle()
    following = within ? { guide: guide.id, ...at, ids: [id] } : null
  }

  function settle() {
    const cellInk = following
    const guide = guides.onBoard.find(g => g.id === cellInk?.guide)
    if (!cellInk || !guide) return
    const strokes = bench.board.strokes.filter(s => cellInk.ids.includes(s.of)).map(s => s.stroke)
    if (!strokes.length) return
    const box = unionOf(strokes.map(s => boxOfStrokes([s])))
    const dx = guide.thing.at.x + (cellInk.col + 0.5) * guide.thing.cell - (box.x + box.w / 2)
    if (Math.abs(dx) > 0.06 * guide.thing.cell) recording.desk.alter(cellInk.ids, { matrix: moveBy(dx, 0) })
  }

  return { cell, inCell, nextCell, cellAt, typeInCell, follow }
})
