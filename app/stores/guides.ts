import { newId, Trouble, type GuideSpec, type GuideThing, type HeldLine, type Spot, type Thing } from '#core/folio'
import { FIGURE_KINDS, layFigure, readFigure } from '#core/figures'
import {
  choicesAt,
  GUIDE_KINDS,
  kindOf,
  layGuide,
  linesOf,
  readGuide,
  writeMove,
  type GuideKind,
  type GuideLayout,
} from '#core/guides'
import type { EquationMove } from '#core/maths'
import { seededRandom, type Stroke } from '#core/ink'
import { equationAt, extentOf, numberAt } from '#core/things'
import { figureSets } from '../work/typeset'

/** One centimetre in points: the unit of a figure that is drawn to scale. */
const CENTIMETRE = 28.3465

function kindOfGuide(spec: GuideSpec): GuideKind {
  return spec.guide === 'columns'
    ? spec.operation
    : spec.guide === 'division'
      ? 'divide'
      : spec.guide === 'bar'
        ? spec.bar
        : spec.guide === 'logic'
          ? 'elimination'
          : spec.guide === 'balance'
            ? 'equation'
            : spec.guide
}

/** Layout guides and figures in the hand: what is typed for them, and what is done with them on the board. */
export const useGuides = defineStore('guides', () => {
  const bench = useBench()
  const recording = useRecording()
  const settings = useSettings()
  const texts = ref<Partial<Record<string, string>>>({})
  /** What is typed for the next guide; its kind is read from it, unless she chose one. */
  const text = ref('')
  const chosenKind = ref<GuideKind | null>(null)
  const kind = computed<GuideKind>({
    get: () => chosenKind.value ?? (text.value.trim() ? kindFromText(text.value) : null) ?? settings.remembered.guide,
    set: (value: GuideKind) => {
      chosenKind.value = value
      settings.remembered.guide = value
    },
  })
  /** Tapped numbers are of the kind that is shown; what is typed by hand tells its kind itself. */
  const kindFromText = (typed: string) => (taken.length ? null : kindOf(typed))
  watch(text, typed => {
    if (!typed.trim()) chosenKind.value = null
  })
  let placing = false
  /** What the last move would be said like. */
  const said = ref('')
  const activeId = ref<string | null>(null)
  /** The guide or figure that is being changed: its id on the board. */
  const editing = ref<string | null>(null)
  /** The held one that is being changed. */
  const editingHeld = ref<string | null>(null)
  /** The square in which the last filled-in move ended. */
  const written = shallowRef<{ at: { col: number; row: number } | null }>({ at: null })
  /** Numbers of the page that were tapped for the next guide. */
  let taken: string[] = []

  const onBoard = computed(() =>
    bench.board.things.filter(t => t.thing.kind === 'guide').map(t => ({ id: t.id, thing: t.thing as GuideThing })),
  )
  const active = computed(() => onBoard.value.find(g => g.id === activeId.value) ?? onBoard.value.at(-1) ?? null)
  const layout = computed<GuideLayout | null>(() => active.value && layGuide(active.value.thing.spec))
  const done = computed(() => {
    void recording.changes
    return active.value ? recording.desk.board.movesOf(active.value.id) : 0
  })
  const next = computed(() => layout.value?.moves[done.value] ?? null)
  watch(
    () => active.value?.id,
    () => {
      said.value = ''
    },
  )

  /** Opens a guide or figure of the board with what was typed for it, to be changed. */
  function edit(id: string, thing: Thing) {
    if (thing.kind === 'figure') {
      settings.remembered.figure = thing.spec.figure
      texts.value[`figure:${thing.spec.figure}`] = thing.text
    } else if (thing.kind === 'guide') {
      taken = []
      text.value = thing.text
      kind.value = kindOfGuide(thing.spec)
      activeId.value = id
    } else return
    bench.choose(thing.kind)
    editing.value = id
  }

  /** Opens a held guide or figure with what was typed for it, to be changed. */
  function editHeld(line: HeldLine) {
    edit('', line.thing)
    editing.value = null
    editingHeld.value = line.id
  }

  /** What is being changed now. */
  const inHand = () => ({ onBoard: editing.value, held: editingHeld.value })
  /**
   * Puts what is being changed in its own place and size.
   * @param of what was in hand when the change was asked for
   * @returns whether there was something to change
   */
  function changed(thing: Thing, of = inHand()): boolean {
    const before =
      bench.board.things.find(t => t.id === of.onBoard)?.thing ?? bench.held.find(h => h.id === of.held)?.thing
    if (!before || before.kind !== thing.kind) return false
    const kept =
      thing.kind === 'guide' && before.kind === 'guide'
        ? { ...thing, at: before.at, cell: before.cell }
        : thing.kind === 'figure' && before.kind === 'figure'
          ? { ...thing, at: before.at }
          : thing
    if (of.held)
      bench.changeHeld('change a held line', all =>
        all.forEach(h => {
          if (h.id === of.held)
            Object.assign(h, {
              thing: JSON.parse(JSON.stringify(kept)) as Thing,
              name: (kept as { text: string }).text.slice(0, 120),
            })
        }),
      )
    else bench.act('changing it', () => recording.desk.change(of.onBoard!, kept))
    editing.value = null
    editingHeld.value = null
    return true
  }
  watch(
    () => bench.tool,
    () => {
      editing.value = null
      editingHeld.value = null
    },
    { flush: 'sync' },
  )

  /** Places the chosen guide with its top left corner at a spot; without one, where it has room. */
  function placeGuide(shown: Spot | null) {
    const { label, example } = GUIDE_KINDS.find(k => k.id === kind.value)!
    return bench.attempt(() => {
      const typed = text.value.trim()
      if (!typed)
        throw new Trouble(
          'numbers-missing',
          'This guide has no numbers yet.',
          'The board is as it was.',
          `Tap them on the page, or type them, such as ${example}.`,
        )
      if (!chosenKind.value && !taken.length && !kindOf(typed))
        throw new Trouble(
          'guide-unclear',
          `“${typed.slice(0, 60)}” is not what any guide is typed with.`,
          'What you typed is still there, and nothing was placed.',
          `Choose the kind, or type it such as ${example}.`,
        )
      const spec = readGuide(kind.value, typed)
      const { cols, rows } = layGuide(spec)
      const { at, side } = placeFor(shown, cols, rows)
      const thing: Thing = { kind: 'guide', at, cell: side, spec, text: typed }
      if (!changed(thing)) activeId.value = bench.put(thing, `${typed} (${label})`) ?? activeId.value
      settings.remembered.guide = kind.value
      taken = []
      text.value = ''
    })
  }

  /** As large as usual handwriting, or smaller where it would not fit. */
  function placeFor(shown: Spot | null, cols: number, rows: number): { at: Spot; side: number } {
    const room = bench.frameBox
    if (!shown)
      for (const side of [20, 17, 14, 12, 10]) {
        const at = bench.freePlace({ w: cols * side, h: rows * side })
        if (at) return { at, side }
      }
    const at = shown ?? { x: room.x + room.w * 0.12, y: room.y + room.h * 0.34 }
    return {
      at,
      side: Math.max(6, Math.min(20, (room.x + room.w - at.x) / cols, (room.y + room.h - at.y) / rows)),
    }
  }

  /** Places the chosen figure. To scale, one of its units is a centimetre; else it fills a third of the frame. */
  function placeFigure(shown: Spot | null) {
    const figure = settings.remembered.figure
    const typed = texts.value[`figure:${figure}`] ?? FIGURE_KINDS.find(k => k.id === figure)!.example
    // What was asked once is placed once, however often the key is pressed meanwhile.
    if (placing) return Promise.resolve()
    placing = true
    // Its labels take a moment to typeset; she may have another tool in hand by then.
    const of = inHand()
    return bench
      .attempt(async () => {
        const spec = readFigure(figure, typed)
        const extent = extentOf(layFigure(spec))
        const room = bench.frameBox
        const unit =
          settings.remembered.toScale && spec.figure !== 'axes'
            ? CENTIMETRE
            : Math.min(
                (room.w * 0.4) / extent.w,
                (room.h * 0.42) / extent.h,
                spec.figure === 'circuit' ? 30 : spec.figure === 'molecule' ? 44 : spec.figure === 'table' ? 13 : 400,
              )
        const at = shown ??
          bench.freePlace({ w: extent.w * unit, h: extent.h * unit }) ?? {
            x: room.x + room.w * 0.55,
            y: room.y + room.h * 0.34,
          }
        const thing: Thing = {
          kind: 'figure',
          at,
          unit: Math.max(0.01, Math.min(1000, unit)),
          role: bench.role,
          spec,
          text: typed,
          sets: await figureSets(spec),
        }
        if (!changed(thing, of)) bench.put(thing, typed)
        // The next tap is the pen's again, where she has not chosen another tool since.
        if (bench.tool === 'figure') bench.choose(settings.remembered.role)
      })
      .finally(() => {
        placing = false
      })
  }

  /** What may be done next to the equation in hand. */
  const choices = computed(() =>
    active.value?.thing.spec.guide === 'equation' ? choicesAt(active.value.thing.spec, done.value) : [],
  )
  /** Does a move that the teacher chose, and goes on from there. @returns what is wrong with it, when something is */
  function chooseMove(move: EquationMove): Promise<void> {
    return bench.attempt(() => {
      const guide = active.value
      if (guide?.thing.spec.guide !== 'equation') return
      const { spec } = guide.thing
      const before = linesOf(spec)
        .lines.slice(0, done.value)
        .map(l => l.move)
      const chosen = { ...spec, chosen: [...before, move] }
      layGuide(chosen)
      bench.act('choosing the move', () => recording.desk.change(guide.id, { ...guide.thing, spec: chosen }))
      fillNext()
    })
  }

  /** Writes the next move of the active guide for the teacher. @returns why there is none, when there is none */
  function fillNext(): string | undefined {
    const guide = active.value
    const move = next.value
    if (!guide) return 'There is no guide on the page.'
    if (!move) return 'This guide has no further move.'
    if (recording.state === 'paused' || recording.state === 'counting') return
    const { strokes } = writeMove(
      move,
      guide.thing.at,
      guide.thing.cell,
      seededRandom(done.value * 31 + move.say.length),
      newId,
    )
    said.value = move.say
    // A move that is asked for while the last one is still being written follows it.
    const wait = recording.desk.busyMs
    const later = strokes.map(s => ({ ...s, points: s.points.map((n, i) => (i % 4 === 3 ? n + wait : n)) }))
    const from: Stroke[] = later.length
      ? later
      : [{ id: newId(), role: 'aside', tool: 'pen', points: [guide.thing.at.x, guide.thing.at.y, 0, 0] }]
    bench.act('filling in the next move', () => recording.desk.write(from, { guide: guide.id, move: done.value }))
    const at = move.cells.findLast(c => !c.strike && !c.line)
    written.value = { at: at ? { col: at.col, row: at.row } : null }
  }

  /**
   * Takes a number that is printed on the page into what is typed for the guide, after those that were taken before;
   * for the balance, a whole
   * equation.
   * @returns whether there was one under the place
   */
  function takeNumber(p: Spot): boolean {
    const equation = kind.value === 'equation' ? equationAt(bench.words, p) : null
    if (equation) {
      text.value = equation
      return true
    }
    const number = numberAt(bench.words, p)
    if (!number) return false
    // What was typed by hand and not tapped is kept: the number goes behind it.
    if (text.value.trim() && !taken.length) {
      text.value = `${text.value.trimEnd()} ${number}`
      return true
    }
    const by = signOf()
    // What takes two numbers begins anew with the third.
    taken = taken.length >= 2 && ![' + ', ', '].includes(by) ? [number] : [...taken, number]
    text.value = taken.join(by)
    return true
  }
  const signOf = () =>
    ({
      add: ' + ',
      whole: ' + ',
      subtract: ' - ',
      multiply: ' * ',
      area: ' * ',
      divide: ' : ',
      equal: ' in ',
      compare: ' and ',
      fraction: ' of ',
    })[kind.value as string] ?? ', '
  // Numbers that were tapped before the kind was chosen serve the kind.
  watch(
    () => kind.value,
    () => {
      if (taken.length) text.value = taken.join(signOf())
    },
  )
  watch(
    () => bench.question?.id,
    () => {
      texts.value = {}
      text.value = ''
      taken = []
    },
  )

  return {
    text,
    kind,
    choices,
    chooseMove,
    texts,
    editing,
    editingHeld,
    edit,
    editHeld,
    said,
    active,
    activeId,
    onBoard,
    written,
    layout,
    done,
    next,
    placeGuide,
    placeFigure,
    fillNext,
    takeNumber,
  }
})
