import { unionOf, type Box, type Frame, type LineThing, type Page, type Spot, type TextMark } from '#core/folio'
import { boxPath, ellipsePath, polyline, ROLE_STYLES, Steady, straighten, type InkTool, type Mark } from '#core/ink'
import { PRESSES, type PenSample } from '#core/recording'
import { wordBox, wordsBetween } from '#core/things'
import { itemAt, ringed, swept, sweptPieces } from '../board/selection'
import { between, isPen } from '../board/tools'
import type { PenListener, PenState } from '../devices/pen'

const MARK_NAMES: Record<TextMark, string> = {
  band: 'Mark',
  underline: 'Underline',
  strike: 'Strike',
  ring: 'Ring',
  box: 'Box',
}

/**
 * What the hand does on the board with the tool it holds. Places come in CSS pixels of the writing area.
 * @param draw shows the board anew; @param soon draws what moves at the next picture
 */
export function useHand(
  page: Ref<Page>,
  frame: Ref<Frame>,
  scale: Ref<number>,
  view: Ref<Box>,
  draw: () => void,
  soon: () => void,
) {
  const recording = useRecording()
  const settings = useSettings()
  const bench = useBench()
  const lines = useLines()
  const tally = useTally()
  const options = useOptions()
  const cells = useCells()
  const guides = useGuides()
  const pad = usePad()
  let live: string | null = null
  /** Whether something was tried at rest. */
  const tried = ref(false)

  const onPage = (s: PenSample): PenSample => ({
    ...s,
    x: view.value.x + s.x / scale.value,
    y: view.value.y + s.y / scale.value,
  })
  /** What the hand is doing between down and up, with its places on the page. */
  let doing: {
    what: 'erase' | 'ring' | 'drag' | 'grow' | 'mark' | 'light' | 'closer' | 'trail' | 'handle'
    path: Spot[]
    handle?: number
  } | null = null
  let pen: PenState = { barrel: false, tilt: 0, shift: false }
  let steady = new Steady(0)
  /** A second finger asked for this one line to be straight. */
  let asked = false
  const straightening = () =>
    asked || bench.straight || pen.shift || (pen.barrel && settings.remembered.penButton === 'straight')
  const canAct = () => recording.state !== 'paused' && recording.state !== 'counting' && recording.state !== 'settling'

  const listener: PenListener = {
    down(tool: InkTool, sample: PenSample, eraserEnd: boolean, state?: PenState) {
      const at = onPage(sample)
      pen = state ?? { barrel: false, tilt: 0, shift: false }
      asked = false
      const button = pen.barrel ? settings.remembered.penButton : null
      const press = PRESSES.find(p => p === button)
      if (press) return pad.press(press)
      if (!canAct()) return
      if (bench.tool === 'eraser' || eraserEnd || button === 'eraser') {
        doing = { what: 'erase', path: [at] }
        return sweep(at)
      }
      if (bench.tool === 'pointer' || button === 'pointer') {
        doing = { what: 'trail', path: [at] }
        recording.desk.trailDown(at)
        return draw()
      }
      if (isPen(bench.tool)) {
        steady = new Steady(tool === 'pen' ? 0 : settings.remembered.steady)
        // A pen held flat writes broad, as a pencil does.
        recording.writes(at)
        const size = settings.remembered.penSize * (pen.tilt > 50 ? 1.6 : 1)
        live = recording.desk.penDown(bench.tool, tool, steady.next(at), Math.round(size * 100) / 100)
        tried.value = !recording.lasting
        if (live) soon()
        return
      }
      begin(at)
    },
    move(samples, state) {
      if (state) pen = state
      if (live) {
        recording.desk.penMove(samples.map(s => steady.next(onPage(s))))
        return soon()
      }
      if (!doing) return
      const places = samples.map(onPage)
      if (doing.what === 'trail') {
        recording.desk.penMove(places)
        return draw()
      }
      for (const p of places) {
        if (doing.what === 'erase') sweep(p)
        doing.path.push(p)
      }
      soon()
    },
    up() {
      if (live) finishStroke()
      else if (doing) finish(doing)
      doing = null
      draw()
    },
    straighten() {
      asked = live !== null
      soon()
    },
    cancel() {
      if (live) {
        recording.desk.penUp()
        recording.undo()
        live = null
      }
      doing = null
      draw()
    },
  }

  function finishStroke() {
    const growing = recording.desk.growing
    recording.desk.penUp()
    const id = live!
    live = null
    const end = growing?.points.slice(-4)
    recording.wrote(end && { x: end[0]!, y: end[1]! })
    const shape = growing && straightening() ? straighten(growing.points) : null
    if (shape && growing) {
      bench.act('straightening', () =>
        recording.desk.place(
          { kind: 'shape', ...shape, role: growing.role, width: ROLE_STYLES[growing.role].width * (growing.size ?? 1) },
          0,
          { instead: [id] },
        ),
      )
    } else if (growing) cells.follow(id, growing)
    if (recording.lasting) recording.changes++
  }

  function begin(at: PenSample) {
    switch (bench.tool) {
      case 'choose':
        return beginChoosing(at)
      case 'mark':
      case 'light':
      case 'closer':
        doing = { what: bench.tool, path: [at] }
        break
      case 'line':
        return tapLine(at)
      case 'guide':
        if (!cells.cellAt(at) && !guides.takeNumber(at)) void guides.placeGuide(at)
        break
      case 'figure':
        void guides.placeFigure(at)
        break
      case 'option': {
        const option = options.optionAt(at)
        if (option) void options.setOption(option.label, settings.remembered.optionTap)
        break
      }
      case 'tally':
        tally.add(at)
        break
    }
  }

  /** A tap on a line opens it, elsewhere a new one is begun. */
  function tapLine(at: Spot) {
    const id = itemAt(bench.board, at)
    const hit = bench.board.things.find(t => t.id === id)
    if (hit?.thing.kind === 'line') lines.editLine(hit.id, hit.thing)
    else lines.startLine({ x: at.x, y: at.y + settings.remembered.letters * 0.35 })
  }

  function beginChoosing(at: PenSample) {
    const box = bench.chosenBox
    const shape = chosenShape()
    const handle =
      shape?.thing.kind === 'shape'
        ? shape.thing.handles.findIndex(h => Math.hypot(h.x - at.x, h.y - at.y) < 10 / scale.value)
        : -1
    if (handle >= 0) doing = { what: 'handle', path: [at], handle }
    else if (box && Math.hypot(box.x + box.w - at.x, box.y + box.h - at.y) < 16 / scale.value)
      doing = { what: 'grow', path: [at] }
    else if (box && at.x > box.x - 4 && at.x < box.x + box.w + 4 && at.y > box.y - 4 && at.y < box.y + box.h + 4)
      doing = { what: 'drag', path: [at] }
    else doing = { what: 'ring', path: [at] }
  }
  const chosenShape = () =>
    bench.selection.length === 1
      ? bench.board.things.find(t => t.id === bench.selection[0] && t.thing.kind === 'shape')
      : undefined

  function finish({ what, path, handle }: NonNullable<typeof doing>) {
    const from = path[0]!,
      to = path[path.length - 1]!
    const moved = path.some(p => Math.hypot(p.x - from.x, p.y - from.y) > 5 / scale.value)
    if (what === 'trail') recording.desk.penUp()
    else if (what === 'ring') {
      const tapped = itemAt(bench.board, from)
      bench.selection = moved ? ringed(bench.board, path) : tapped ? [tapped] : []
    } else if (what === 'drag' && moved) bench.nudge(to.x - from.x, to.y - from.y)
    else if (what === 'drag') openChosen()
    else if (what === 'grow' && bench.chosenBox) {
      const { x, y, w, h } = bench.chosenBox
      bench.grow(Math.max(0.1, Math.min(10, Math.hypot(to.x - x, to.y - y) / Math.hypot(w, h))))
    } else if (what === 'handle') {
      const shape = chosenShape()
      if (shape?.thing.kind === 'shape')
        bench.act('changing the shape', () =>
          recording.desk.change(shape.id, {
            ...shape.thing,
            handles: (shape.thing as { handles: Spot[] }).handles.map((h, i) => (i === handle ? to : h)),
          } as typeof shape.thing),
        )
    } else if (what === 'mark') markWords(from, to, moved)
    else if (what === 'light')
      bench.act('the light', () => recording.desk.show({ type: 'spot', box: moved ? between(from, to) : null }))
    else if (what === 'closer')
      bench.act('going closer', () =>
        recording.desk.show({
          type: 'look',
          box: moved ? closerTo(between(from, to)) : null,
          over: settings.remembered.calm ? 0 : 700,
        }),
      )
  }

  /** A second tap on a chosen line opens it. */
  function openChosen() {
    const hit = bench.board.things.find(t => t.id === bench.selection[0])
    if (hit?.thing.kind === 'line') lines.editLine(hit.id, hit.thing as LineThing)
    else if (hit) guides.edit(hit.id, hit.thing)
  }

  /** 16:9 round a piece of the page; never so near that a single letter fills the picture. */
  function closerTo(box: Box): Box {
    const w = Math.max(box.w, (box.h * 16) / 9, frame.value.box.w / 6)
    const h = (w * 9) / 16
    return { x: box.x + box.w / 2 - w / 2, y: box.y + box.h / 2 - h / 2, w, h }
  }

  function markWords(a: Spot, b: Spot, moved: boolean) {
    const boxes = wordsBetween(bench.words, a, b)
    const mark = settings.remembered.textMark
    if (!boxes.length && moved)
      boxes.push(['underline', 'strike'].includes(mark) ? { ...between(a, { x: b.x, y: a.y }), h: 1 } : between(a, b))
    if (!boxes.length) return
    const role = mark === 'band' && bench.role === 'working' ? ('given' as const) : bench.role
    const thing = {
      kind: 'mark' as const,
      mark,
      role,
      boxes: mark === 'ring' || mark === 'box' ? [unionOf(boxes)] : boxes,
    }
    const text = bench.words
      .filter(w =>
        boxes.some(b => wordBox(w).x >= b.x - 1 && wordBox(w).x < b.x + b.w && Math.abs(wordBox(w).y - b.y) < w.size),
      )
      .map(w => w.text)
      .join(' ')
    bench.put(thing, `${MARK_NAMES[mark]} ${text || 'a piece of the page'}`, 200)
  }

  /** What is seen of a gesture while it is made. */
  function gesture(): Mark[] {
    const shape = bench.tool === 'choose' ? chosenShape() : undefined
    const handles =
      shape?.thing.kind === 'shape'
        ? shape.thing.handles.map(
            (h): Mark => ({
              d: ellipsePath(h.x, h.y, 5 / scale.value),
              fill: '#ffffff',
              stroke: '#1d3f8f',
              width: 1.4 / scale.value,
            }),
          )
        : []
    if (!doing || doing.path.length < 2) return handles
    const from = doing.path[0]!,
      to = doing.path[doing.path.length - 1]!
    const line = { stroke: '#1d3f8f', width: 1.2 / scale.value, dash: [5 / scale.value, 4 / scale.value] }
    if (doing.what === 'ring') return [{ d: polyline(doing.path, true), ...line }]
    if (doing.what === 'drag' && bench.chosenBox)
      return [
        {
          d: boxPath({
            ...bench.chosenBox,
            x: bench.chosenBox.x + to.x - from.x,
            y: bench.chosenBox.y + to.y - from.y,
          }),
          ...line,
        },
      ]
    if (doing.what === 'grow' && bench.chosenBox) return [{ d: boxPath(between(bench.chosenBox, to)), ...line }]
    if (doing.what === 'handle') return [{ d: ellipsePath(to.x, to.y, 5 / scale.value), ...line }]
    if (doing.what === 'closer') return [{ d: boxPath(closerTo(between(from, to))), ...line }]
    if (doing.what === 'light') return [{ d: boxPath(between(from, to)), ...line }]
    if (doing.what === 'mark') {
      const boxes = wordsBetween(bench.words, from, to)
      return boxes.length
        ? boxes.map(b => ({ d: boxPath(b), fill: '#e0a526', alpha: 0.25 }))
        : [{ d: boxPath(between(from, to)), ...line }]
    }
    return []
  }

  function sweep(to: PenSample) {
    const from = doing?.path[doing.path.length - 1] ?? to
    const board = recording.desk.board.last(page.value.id)
    if (settings.remembered.eraser === 'pieces') {
      const left = sweptPieces(board, from, to, 4)
      if (left.length) bench.act('rubbing out', () => recording.desk.cut(left))
      return
    }
    const hit = swept(board, from, to, 4)
    if (hit.length) bench.act('rubbing out', () => recording.desk.erase(hit))
  }

  function forget() {
    tried.value = false
    live = null
  }
  return { listener, gesture, straightening, tried, forget, live: () => live }
}
