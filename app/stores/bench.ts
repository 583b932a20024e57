import {
  cutTo,
  MOST_NAME_BYTES,
  newId,
  Trouble,
  type Box,
  type HeldLine,
  type LineThing,
  type Notation,
  type Page,
  type Question,
  type Spot,
  type Thing,
  type Typeset,
} from '#core/folio'
import { growAbout, moveBy, transformStroke, type Matrix, type PenRole, type Stroke } from '#core/ink'
import { boxOfThing, numberAt, transformThing, WAYS, type PlacedWord } from '#core/things'
import { unionOf } from '#core/folio'
import { withoutColours } from '#core/maths'
import { freeSpot, inTheWay, onSquares, type Around } from '../board/places'
import { isPen, type Tool } from '../board/tools'
import { boxOfStrokes, lastWrittenLine } from '../board/selection'
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

/** What the hand holds in Solve, and what it does to the board beside plain writing. */
export const useBench = defineStore('bench', () => {
  const recording = useRecording()
  const settings = useSettings()
  const notices = useNotices()
  const folios = useFolio()
  const tool = ref<Tool>(settings.remembered.role)
  const question = shallowRef<Question | null>(null)
  const page = shallowRef<Page | null>(null)
  const frameBox = shallowRef<Box>({ x: 0, y: 0, w: 1, h: 1 })
  const words = shallowRef<PlacedWord[]>([])
  /** The cursor that arrow keys move over the page, when there is one. */
  const cursor = shallowRef<Spot | null>(null)
  /** Whether the next strokes are straightened as they are drawn. */
  const straight = ref(false)
  /** Strokes and things that are chosen, by the ids they were written under. */
  const selection = ref<string[]>([])
  const draft = shallowRef<LineDraft | null>(null)
  /** What stands in the editor of the draft. */
  const typing = ref('')
  const tally = ref<string | null>(null)
  const tallyNumber = ref('')
  /** What is wrong with what was typed or tapped for the tool in hand. */
  const trouble = shallowRef<Trouble | null>(null)
  let lastLine: LineThing | null = null

  const live = computed(() => recording.takeDesk !== null)
  /** What is on the page now. */
  const board = computed(() => {
    void recording.changes
    return recording.desk.board.last(page.value?.id)
  })
  const held = computed(() => folios.questions.find(q => q.id === question.value?.id)?.held ?? [])
  const waiting = computed(() => {
    void recording.changes
    return held.value.filter(h => !recording.desk.board.isRevealed(h.id))
  })
  const role = computed<PenRole>(() => settings.remembered.role)

  // Room made in the page moves its words, and turning it does.
  watch(
    () => page.value,
    async (now, before) => {
      if (now?.id !== before?.id) words.value = []
      const printed = now ? await folios.printedWords(now.id) : []
      if (page.value === now) words.value = printed
    },
  )
  watch(
    () => recording.takeDesk,
    () => {
      selection.value = []
      tally.value = null
      draft.value = null
      if (recording.takeDesk) lastLine = null
    },
  )

  function choose(next: Tool) {
    trouble.value = null
    if (next !== 'choose') selection.value = []
    if (next !== 'line') void settleDraft()
    if (next !== 'tally') tally.value = null
    tool.value = next
    if (isPen(next)) settings.remembered.role = next
  }

  /** Does something to the board, and has it drawn. */
  function act<R>(doing: string, run: () => R): R | undefined {
    try {
      const result = run()
      recording.changes++
      return result
    } catch (error) {
      notices.tell(error, doing)
      return undefined
    }
  }

  /** Puts a thing on the board of the take; before a take it is held for it. @returns its id on the board */
  function put(thing: Thing, name: string, over = 0): string | null {
    if (!live.value) {
      hold(thing, name)
      return null
    }
    return act('placing it', () => recording.desk.place(thing, over)) ?? null
  }

  /** Keeps a thing for the take, hidden until it is revealed. */
  function hold(thing: Thing, name: string, how: HeldLine['how'] = thing.kind === 'line' ? 'writing' : 'at once') {
    if (!question.value || !page.value) return
    const line: HeldLine = {
      id: newId(),
      name: name.slice(0, 120),
      pageId: page.value.id,
      thing: JSON.parse(JSON.stringify(thing)) as Thing,
      how,
    }
    folios.changeQuestion(question.value.id, 'hold a line', q => q.held.push(line))
  }

  /** Holds pictures: they become documents of the folio, and stand in the free room of the frame. */
  async function holdPicture(files: readonly File[]) {
    for (const file of files) {
      try {
        const { id, width, height } = await folios.addPicture(file)
        const { x, y, w, h } = frameBox.value
        const s = Math.min((w * 0.4) / width, (h * 0.5) / height)
        hold(
          {
            kind: 'picture',
            documentId: id,
            name: cutTo(file.name, MOST_NAME_BYTES),
            box: { x: x + w * 0.55, y: y + h * 0.4, w: width * s, h: height * s },
          },
          file.name,
        )
      } catch (error) {
        notices.tell(error, `holding ${file.name}`)
      }
    }
  }

  function changeHeld(label: string, edit: (all: HeldLine[]) => void) {
    if (question.value) folios.changeQuestion(question.value.id, label, q => edit(q.held))
  }

  /** Reveals a held line: the next one in order when none is named. @returns why there is none, when there is none */
  function reveal(id = waiting.value.find(h => h.pageId === page.value?.id)?.id): string | undefined {
    const line = held.value.find(h => h.id === id)
    if (!line)
      return waiting.value.length
        ? 'What is held waits for another page.'
        : 'Nothing is held for this question any more.'
    if (recording.state === 'paused' || recording.state === 'counting') return
    act('revealing a line', () =>
      recording.desk.place(JSON.parse(JSON.stringify(line.thing)) as Thing, durationOf(line.thing, line.how), {
        held: line.id,
      }),
    )
    if (line.thing.kind === 'line') lastLine = line.thing
  }

  /** A copy of a held line, a little below it. */
  function copyOfHeld(line: HeldLine): HeldLine {
    const box = boxOfThing(line.thing)
    const thing = transformThing(line.thing, moveBy(0, Math.min(40, box.h + 8)))
    return { ...line, id: newId(), thing: JSON.parse(JSON.stringify(thing)) as Thing }
  }

  /** Puts a held line where it was dragged to: its place from now on, or, in a take, revealed there. */
  function dropHeld(id: string, at: Spot) {
    const line = held.value.find(h => h.id === id)
    if (!line) return
    const box = boxOfThing(line.thing)
    const moved = JSON.parse(
      JSON.stringify(transformThing(line.thing, moveBy(at.x - box.x - box.w / 2, at.y - box.y - box.h / 2))),
    ) as Thing
    if (live.value)
      act('revealing a line', () => recording.desk.place(moved, durationOf(moved, line.how), { held: line.id }))
    else
      changeHeld('move a held line', all =>
        all.forEach(h => {
          if (h.id === id) Object.assign(h, { thing: moved, pageId: page.value?.id ?? h.pageId })
        }),
      )
  }

  // Typed lines

  /** Opens a line to be typed at a place of the page. */
  function startLine(at: Spot, under?: LineThing) {
    void settleDraft()
    draft.value = { at, source: '', notation: 'mixed', ...(under ? { under } : {}) }
  }

  /** Opens a line below the last one, with its words in it. */
  function copyLastLine() {
    void settleDraft()
    const last = lastLine ?? held.value.map(h => h.thing).findLast(t => t.kind === 'line') ?? null
    if (!last) return copyLastInk()
    tool.value = 'line'
    draft.value = { at: below(last), source: last.source, notation: last.notation, under: last }
  }

  const below = (line: LineThing): Spot => {
    const { y } = onSquares(page.value, {
      x: line.at.x,
      y: line.at.y + line.size * Math.max(1.9, line.set.depth / 1000 + 1.6),
    })
    return { x: line.at.x, y }
  }

  /** Opens a line that stands on the board or is held, to be changed. */
  function editLine(id: string, line: LineThing, heldId?: string) {
    void settleDraft()
    tool.value = 'line'
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
    const right = frameBox.value.x + frameBox.value.w - 6
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
    const there = around(wish.id ?? wish.heldId)
    const what = inTheWay(box(at), there)
    return what && { what, to: freeSpot(page.value, at, box, there) }
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
        role: role.value,
        byHand: settings.remembered.byHand,
        at,
        fit: fitOf(wish, at),
      })
      if (wish.id !== undefined)
        act('changing the line', () => recording.desk.change(wish.id!, { ...line, at: wish.at }))
      else if (wish.heldId !== undefined)
        changeHeld('change a held line', all =>
          all.forEach(h => {
            if (h.id === wish.heldId)
              Object.assign(h, { thing: { ...line, at: wish.at }, name: withoutColours(source) })
          }),
        )
      else put(line, withoutColours(source), durationOf(line, line.hand ? 'writing' : 'at once'))
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

  /** What stands on the page: print, things and ink. @param without a thing that is to be moved */
  function around(without?: string): Around {
    return {
      frame: frameBox.value,
      words: words.value,
      things: board.value.things
        .filter(t => t.id !== without && t.thing.kind !== 'option' && t.thing.kind !== 'mark')
        .map(t => boxOfThing(t.thing))
        // What is held stands there as well, once it is revealed.
        .concat(
          live.value
            ? []
            : waiting.value.filter(h => h.id !== without && h.pageId === page.value?.id).map(h => boxOfThing(h.thing)),
        ),
      ink: board.value.strokes.map(s => boxOfStrokes([s.stroke])),
    }
  }

  /**
   * Where something new may stand when no place was shown: at the cursor, or where the frame is free, clear of print.
   * @returns null where it is free nowhere
   */
  function freePlace(size: { w: number; h: number }): Spot | null {
    if (cursor.value) return { ...cursor.value }
    const { x, y } = frameBox.value
    return freeSpot(page.value, { x: x + 12, y: y + 10 }, at => ({ ...at, ...size }), around())
  }

  // What is chosen

  const chosenBox = computed<Box | null>(() => {
    const boxes = [
      ...board.value.strokes.filter(s => selection.value.includes(s.of)).map(s => boxOfStrokes([s.stroke])),
      ...board.value.things.filter(t => selection.value.includes(t.id)).map(t => boxOfThing(t.thing)),
    ]
    return boxes.length ? unionOf(boxes) : null
  })

  function alterChosen(matrix: Matrix) {
    if (selection.value.length) act('moving it', () => recording.desk.alter(selection.value, { matrix }))
  }
  const nudge = (dx: number, dy: number) => alterChosen(moveBy(dx, dy))
  function grow(s: number) {
    const box = chosenBox.value
    if (box) alterChosen(growAbout(s, { x: box.x, y: box.y }))
  }
  function recolour(next: PenRole) {
    if (selection.value.length) act('recolouring it', () => recording.desk.alter(selection.value, { role: next }))
  }
  function removeChosen() {
    if (selection.value.length) act('removing it', () => recording.desk.erase(selection.value))
    selection.value = []
  }

  /** Copies what is chosen, a little below; the copy is chosen then. */
  function copyChosen() {
    const box = chosenBox.value
    if (!box) return
    const move = moveBy(12, Math.min(box.h + 6, 40))
    const strokes = board.value.strokes.filter(s => selection.value.includes(s.of)).map(s => s.stroke)
    const things = board.value.things.filter(t => selection.value.includes(t.id)).map(t => t.thing)
    selection.value = []
    if (strokes.length) copyStrokes(strokes, move)
    for (const thing of things) {
      const id = act('copying it', () => recording.desk.place(transformThing(thing, move)))
      if (id) selection.value.push(id)
    }
  }

  function copyStrokes(strokes: readonly Stroke[], move: Matrix) {
    const before = new Set(recording.desk.board.last().strokes.map(s => s.of))
    // A copy is there at once: all of its samples have one time.
    act('copying it', () =>
      recording.desk.write(
        strokes.map(s => ({
          ...transformStroke(s, move),
          points: transformStroke(s, move).points.map((n, i) => (i % 4 === 3 ? 0 : n)),
        })),
      ),
    )
    selection.value.push(
      ...recording.desk.board
        .last()
        .strokes.filter(s => !before.has(s.of))
        .map(s => s.of),
    )
  }

  /** Copies the line that was written by hand last, below itself, chosen, ready to be changed. */
  function copyLastInk() {
    const line = lastWrittenLine(board.value.strokes.map(s => s.stroke))
    if (!line.length) return
    const box = boxOfStrokes(line)
    selection.value = []
    copyStrokes(line, moveBy(0, box.h * 1.45 + 4))
    tool.value = 'choose'
  }

  // A way over a figure

  /** Free room of the frame, to the right of a place if there is some. */
  function freePlaceBeside(p: Spot, size: { w: number; h: number }): Spot | null {
    const { x, y, w } = frameBox.value
    const right = { x: Math.max(p.x + 60, x + w - size.w - 12), y: y + 12 }
    return freeSpot(page.value, right, at => ({ ...at, ...size }), around())
  }

  /** Takes the number at a place (or the typed one) into the tally. */
  function addToTally(p: Spot) {
    const number = tallyNumber.value.trim() || numberAt(words.value, p) || ''
    const current = board.value.things.find(t => t.id === tally.value)?.thing
    trouble.value =
      number || current?.kind === 'tally'
        ? null
        : new Trouble(
            'number-missing',
            'There is no number there.',
            'The board is as it was.',
            'Tap on a number of the page, or type it first.',
          )
    if (trouble.value) return
    act('adding to the tally', () => {
      if (current?.kind === 'tally')
        recording.desk.change(tally.value!, {
          ...current,
          path: [...current.path, p],
          numbers: number ? [...current.numbers, number] : current.numbers,
        })
      else {
        const ways = board.value.things.filter(t => t.thing.kind === 'tally').length
        const size = 9
        const last = board.value.things.findLast(t => t.thing.kind === 'tally')?.thing
        // Beside the figure, one way under the other.
        const at =
          last?.kind === 'tally'
            ? { x: last.at.x, y: last.at.y + (last.numbers.length + 1) * last.size * 1.7 }
            : (freePlaceBeside(p, { w: size * 13, h: size * 12 }) ?? { x: p.x + 40, y: p.y })
        tally.value = recording.desk.place({
          kind: 'tally',
          colour: WAYS[ways % WAYS.length]!,
          path: [p],
          numbers: [number],
          at,
          size,
        })
      }
    })
    tallyNumber.value = ''
  }

  return {
    trouble,
    cursor,
    freePlace,
    around,
    tool,
    question,
    page,
    frameBox,
    words,
    straight,
    selection,
    draft,
    tally,
    tallyNumber,
    live,
    board,
    held,
    waiting,
    role,
    chosenBox,
    choose,
    act,
    put,
    hold,
    copyOfHeld,
    dropHeld,
    holdPicture,
    changeHeld,
    reveal,
    startLine,
    typesetLine,
    copyLastLine,
    copyLastInk,
    editLine,
    finishLine,
    linedUp,
    setLine,
    roomFor,
    typing,
    settleDraft,
    hindrance,
    alterChosen,
    nudge,
    grow,
    recolour,
    removeChosen,
    copyChosen,
    addToTally,
  }
})
