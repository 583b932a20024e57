import {
  asTrouble,
  cutTo,
  MOST_NAME_BYTES,
  newId,
  unionOf,
  type Box,
  type HeldLine,
  type Page,
  type Question,
  type Spot,
  type Thing,
  type Trouble,
} from '#core/folio'
import { growAbout, moveBy, transformStroke, type Matrix, type PenRole, type Stroke } from '#core/ink'
import { boxOfThing, transformThing, type PlacedWord } from '#core/things'
import { freeSpot, type Around } from '../board/places'
import { isPen, type Tool } from '../board/tools'
import { boxOfStrokes, lastWrittenLine } from '../board/selection'
import { durationOf } from '../work/typeset'

/** What the hand holds in Solve, and what it does to the board beside plain writing. */
export const useBench = defineStore('bench', () => {
  const recording = useRecording()
  const settings = useSettings()
  const notices = useNotices()
  const folios = useFolio()
  const incoming = useIncoming()
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
  /** What is wrong with what was typed or tapped for the tool in hand. */
  const trouble = shallowRef<Trouble | null>(null)

  const live = computed(() => recording.lasting)
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
    () => recording.lasting && recording.desk,
    () => {
      selection.value = []
    },
  )

  function choose(next: Tool) {
    trouble.value = null
    if (next !== 'choose') selection.value = []
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

  /** Reads what was typed, and tells beside the tool what is wrong with it. */
  async function attempt(run: () => Promise<void> | void) {
    trouble.value = null
    try {
      await run()
    } catch (error) {
      trouble.value = asTrouble(error, 'reading what was typed')
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
        const { id, width, height } = await incoming.addPicture(file)
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
    live,
    board,
    held,
    waiting,
    role,
    chosenBox,
    choose,
    act,
    attempt,
    put,
    hold,
    copyOfHeld,
    dropHeld,
    holdPicture,
    changeHeld,
    reveal,
    copyLastInk,
    alterChosen,
    nudge,
    grow,
    recolour,
    removeChosen,
    copyChosen,
  }
})
