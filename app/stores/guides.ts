import {
  asTrouble,
  unionOf,
  type Box,
  type GuideSpec,
  type GuideThing,
  type HeldLine,
  type OptionThing,
  type Spot,
  type Thing,
  type Typeset,
} from '#core/folio'
import { FIGURE_KINDS, layFigure, readFigure } from '#core/figures'
import {
  choicesAt,
  GUIDE_KINDS,
  kindOf,
  layGuide,
  linesOf,
  pathsOfCell,
  readGuide,
  writeMove,
  type GuideKind,
  type GuideLayout,
} from '#core/guides'
import type { EquationMove } from '#core/maths'
import { moveBy, seededRandom, writeByHand, type Stroke } from '#core/ink'
import { newId, Trouble } from '#core/folio'
import { boxOfReason, equationAt, extentOf, numberAt, reasonPlaces, reasonWidth } from '#core/things'
import { freeSpot, inTheWay } from '../board/places'
import { boxOfStrokes } from '../board/selection'
import { figureSets, typesetLine } from '../work/typeset'

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

/** Layout guides, figures and options in the hand: what is typed for them, and what is done with them on the board. */
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
  /** The square that typed digits go into. */
  const cell = ref<{ col: number; row: number } | null>(null)
  /** Whether she chose the square herself; where a filled-in move ended, digits stay the keys of the pens. */
  const inCell = ref(false)
  /** Numbers of the page that were tapped for the next guide. */
  let taken: string[] = []
  let following: { guide: string; col: number; row: number; ids: string[] } | null = null

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
      cell.value = null
      inCell.value = false
      said.value = ''
      following = null
    },
  )

  async function attempt(run: () => Promise<void> | void) {
    bench.trouble = null
    try {
      await run()
    } catch (error) {
      bench.trouble = asTrouble(error, 'reading what was typed')
    }
  }

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

  /** Puts what is being changed in its own place and size. @returns whether there was something to change */
  function changed(thing: Thing): boolean {
    const before =
      bench.board.things.find(t => t.id === editing.value)?.thing ??
      bench.held.find(h => h.id === editingHeld.value)?.thing
    if (!before || before.kind !== thing.kind) return false
    const kept =
      thing.kind === 'guide' && before.kind === 'guide'
        ? { ...thing, at: before.at, cell: before.cell }
        : thing.kind === 'figure' && before.kind === 'figure'
          ? { ...thing, at: before.at }
          : thing
    if (editingHeld.value)
      bench.changeHeld('change a held line', all =>
        all.forEach(h => {
          if (h.id === editingHeld.value)
            Object.assign(h, {
              thing: JSON.parse(JSON.stringify(kept)) as Thing,
              name: (kept as { text: string }).text.slice(0, 120),
            })
        }),
      )
    else bench.act('changing it', () => recording.desk.change(editing.value!, kept))
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
    return attempt(() => {
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
    return attempt(async () => {
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
      if (!changed(thing)) bench.put(thing, typed)
      // The next tap is the pen's again.
      bench.choose(settings.remembered.role)
    }).finally(() => {
      placing = false
    })
  }

  /** What may be done next to the equation in hand. */
  const choices = computed(() =>
    active.value?.thing.spec.guide === 'equation' ? choicesAt(active.value.thing.spec, done.value) : [],
  )
  /** Does a move that the teacher chose, and goes on from there. @returns what is wrong with it, when something is */
  function chooseMove(move: EquationMove): Promise<void> {
    return attempt(() => {
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
    if (at) cell.value = { col: at.col, row: at.row }
    inCell.value = false
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

  /** Goes to the next square in the order of the method; from a square outside it, to the next column. */
  function nextCell(by = 1) {
    inCell.value = true
    const order = layout.value?.order ?? []
    const i = order.findIndex(c => c.col === cell.value?.col && c.row === cell.value?.row)
    cell.value =
      order[(i + by + order.length) % Math.max(1, order.length)] ??
      (cell.value ? { col: cell.value.col + by, row: cell.value.row } : { col: 0, row: 0 })
  }

  /** Chooses the square under a place of the page, when the active guide is there. */
  function cellAt(p: Spot): boolean {
    const guide = onBoard.value.find(({ thing }) => {
      const { cols, rows } = layGuide(thing.spec)
      return (
        p.x >= thing.at.x &&
        p.x < thing.at.x + cols * thing.cell &&
        p.y >= thing.at.y &&
        p.y < thing.at.y + rows * thing.cell
      )
    })
    if (!guide) return false
    activeId.value = guide.id
    inCell.value = true
    cell.value = {
      col: Math.floor((p.x - guide.thing.at.x) / guide.thing.cell),
      row: Math.floor((p.y - guide.thing.at.y) / guide.thing.cell),
    }
    return true
  }

  /** Writes a typed digit or sign into the square, and goes on in the direction of the method. */
  function typeInCell(text: string) {
    const guide = active.value
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
    const guide = active.value
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
    const guide = onBoard.value.find(g => g.id === cellInk?.guide)
    if (!cellInk || !guide) return
    const strokes = bench.board.strokes.filter(s => cellInk.ids.includes(s.of)).map(s => s.stroke)
    if (!strokes.length) return
    const box = unionOf(strokes.map(s => boxOfStrokes([s])))
    const dx = guide.thing.at.x + (cellInk.col + 0.5) * guide.thing.cell - (box.x + box.w / 2)
    if (Math.abs(dx) > 0.06 * guide.thing.cell) recording.desk.alter(cellInk.ids, { matrix: moveBy(dx, 0) })
  }

  // Options of a multiple-choice question

  const options = computed(() => bench.question?.options ?? [])
  function stateOf(label: string): OptionThing['state'] | 'open' {
    const found =
      bench.board.things.findLast(t => t.thing.kind === 'option' && t.thing.label === label)?.thing ??
      (bench.live ? undefined : bench.held.findLast(h => h.thing.kind === 'option' && h.thing.label === label)?.thing)
    return found?.kind === 'option' ? found.state : 'open'
  }

  /** Rules an option out, keeps it or takes it as the answer; the same again opens it. */
  function setOption(label: string, state: OptionThing['state']) {
    const option = options.value.find(o => o.label.toLowerCase() === label.toLowerCase())
    if (!option) return
    return attempt(async () => {
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
  const NAMES = { out: 'is out', stays: 'stays', answer: 'is the answer' }
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
    options.value.find(
      o =>
        o.place?.pageId === bench.page?.id &&
        o.place &&
        p.x >= o.place.box.x - 8 &&
        p.x <= o.place.box.x + o.place.box.w + 8 &&
        p.y >= o.place.box.y - 4 &&
        p.y <= o.place.box.y + o.place.box.h + 4,
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
    cell,
    inCell,
    layout,
    done,
    next,
    options,
    placeGuide,
    placeFigure,
    fillNext,
    takeNumber,
    nextCell,
    cellAt,
    typeInCell,
    follow,
    settle,
    stateOf,
    setOption,
    optionAt,
  }
})
