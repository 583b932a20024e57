import type { Box, LineThing, Notation, Spot, Typeset } from '#core/folio'
import { withoutColours } from '#core/maths'
import { freeSpot, inTheWay, onSquares } from '../board/places'
import { durationOf, lineThing, typesetLine, type Fit } from '../work/typeset'

/** A line that is being typed. `id` is the line it changes; `under` the one it stands below and lines up with. */
export interface LineDraft {
  at: Spot
  source: string
  notation: Notation
  id?: string
  heldId?: string
  under?: LineThing
  /** Put where there is room: not lined up with the line above any more. */ moved?: boolean
}

/** Typed lines in the hand: the one that is being typed, how it has to fit, and what it becomes. */
export const useLines = defineStore('lines', () => {
  const bench = useBench()
  const recording = useRecording()
  const settings = useSettings()
  const notices = useNotices()
  const draft = shallowRef<LineDraft | null>(null)
  /** What stands in the editor of the draft. */
  const typing = ref('')
  let lastLine: LineThing | null = null

  watch(
    () => recording.lasting && recording.desk,
    () => {
      draft.value = null
      lastLine = null
    },
  )
  watch(
    () => bench.tool,
    tool => {
      if (tool !== 'line') void settleDraft()
    },
    { flush: 'sync' },
  )

  /** Opens a line to be typed at a place of the page. */
  function startLine(at: Spot, under?: LineThing) {
    void settleDraft()
    draft.value = { at, source: '', notation: 'mixed', ...(under ? { under } : {}) }
  }

  /** Opens a line below the last one, with its words in it. */
  function copyLastLine() {
    void settleDraft()
    const last = lastOnBoard() ?? lastLine ?? bench.held.map(h => h.thing).findLast(t => t.kind === 'line') ?? null
    if (!last) return bench.copyLastInk()
    bench.choose('line')
    draft.value = { at: below(last), source: last.source, notation: last.notation, under: last }
  }

  const lastOnBoard = () => {
    const last = bench.board.things.findLast(t => t.thing.kind === 'line')?.thing
    return last?.kind === 'line' ? last : null
  }
  const below = (line: LineThing): Spot => {
    const { y } = onSquares(bench.page, {
      x: line.at.x,
      y: line.at.y + line.size * Math.max(1.9, line.set.depth / 1000 + 1.6),
    })
    return { x: line.at.x, y }
  }

  /** Opens a line that stands on the board or is held, to be changed. */
  function editLine(id: string, line: LineThing, heldId?: string) {
    void settleDraft()
    bench.choose('line')
    draft.value = { at: line.at, source: line.source, notation: line.notation, ...(heldId ? { heldId } : { id }) }
  }

  /** Where a line begins so that its first sign of relation stands under that of the line above. */
  function linedUp(equals: number | null, wish: LineDraft): Spot {
    const { under } = wish
    if (!under || wish.moved || equals === null || under.set.equals === null) return wish.at
    return { x: under.at.x + ((under.set.equals - equals) / 1000) * under.size, y: wish.at.y }
  }

  /**
   * How a line has to fit: no wider than the frame leaves room for, its aside below that of the line above.
   * @param at start of its baseline
   */
  function fitOf(wish: LineDraft, at: Spot): Fit {
    const size = wish.under?.size ?? settings.remembered.letters
    const right = bench.frameBox.x + bench.frameBox.w - 6
    const { under } = wish
    const aside = under?.set.aside == null ? undefined : ((under.at.x - at.x) * 1000) / size + under.set.aside
    return { width: Math.max(4000, Math.round(((right - at.x) * 1000) / size)), aside: aside && Math.round(aside) }
  }

  /** How wide a line may be there, in thousandths of its letters. */
  const roomFor = (wish: LineDraft) => fitOf(wish, wish.at).width!
  /**
   * Takes the line that is being typed, before another is begun or another tool is chosen; one that cannot be read
   * stays open.
   */
  async function settleDraft(): Promise<void> {
    const wish = draft.value,
      source = typing.value
    typing.value = ''
    draft.value = null
    if (!wish || !source.trim() || source === wish.source) return
    draft.value = wish
    if (!(await finishLine(source, wish.notation, 'nothing'))) draft.value = { ...wish, source }
  }

  /** Typesets a line as it would stand, where it would stand. */
  async function setLine(source: string, notation: Notation, wish: LineDraft) {
    const first = await typesetLine(source, notation, fitOf(wish, wish.at))
    const at = linedUp(first.equals, wish)
    const set = await typesetLine(source, notation, fitOf(wish, at))
    return { at, set }
  }

  /** What stands in the way of a line that is typed, and where it would not; null when nothing does. */
  function hindrance(at: Spot, set: Typeset, wish: LineDraft) {
    const size = wish.under?.size ?? settings.remembered.letters
    const box = (p: Spot): Box => ({
      x: p.x,
      y: p.y - (set.height / 1000) * size,
      w: (set.width / 1000) * size,
      h: ((set.height + set.depth) / 1000) * size,
    })
    const there = bench.around(wish.id ?? wish.heldId)
    const what = inTheWay(box(at), there)
    return what && { what, to: freeSpot(bench.page, at, box, there) }
  }

  /**
   * Takes a typed line.
   * @param then what follows: nothing, an empty line below it, or a step mark and the same line once more
   * @returns whether it could be read
   */
  async function finishLine(source: string, notation: Notation, then: 'nothing' | 'next' | 'again'): Promise<boolean> {
    const wish = draft.value
    if (!wish) return true
    if (!source.trim()) {
      draft.value = null
      return true
    }
    try {
      const { at } = await setLine(source, notation, wish)
      const size = wish.under?.size ?? settings.remembered.letters
      const line = await lineThing({
        source,
        notation,
        size,
        role: bench.role,
        byHand: settings.remembered.byHand,
        at,
        fit: fitOf(wish, at),
      })
      if (wish.id !== undefined)
        bench.act('changing the line', () => recording.desk.change(wish.id!, { ...line, at: wish.at }))
      else if (wish.heldId !== undefined)
        bench.changeHeld('change a held line', all =>
          all.forEach(h => {
            if (h.id === wish.heldId)
              Object.assign(h, { thing: { ...line, at: wish.at }, name: withoutColours(source) })
          }),
        )
      else bench.put(line, withoutColours(source), durationOf(line, line.hand ? 'writing' : 'at once'))
      lastLine = line
      const isNew = wish.id === undefined && wish.heldId === undefined
      if (then === 'again') recording.markStep()
      // Another line may have been begun meanwhile.
      if (draft.value !== wish) return true
      typing.value = ''
      draft.value = null
      if (then !== 'nothing' && isNew) {
        startLine(below(line), line)
        if (then === 'again') draft.value = { ...draft.value!, source, notation }
      }
      return true
    } catch (error) {
      notices.tell(error, 'typesetting the line')
      return false
    }
  }

  return {
    draft,
    typing,
    startLine,
    copyLastLine,
    editLine,
    finishLine,
    settleDraft,
    setLine,
    roomFor,
    hindrance,
  }
})
