import { keyOfRole, PEN_ROLES } from '#core/ink'
import type { Key } from '~/stores/keys'
import { isPen, TOOLS, type ToolId } from '../board/tools'

/** What the Solve screen itself can do. */
export interface SolveActions {
  record(): void
  stop(): void
  /** @returns why there is none, when there is none */
  next(): string | undefined
  stepFrame(by: number): string | undefined
  backToFrame(): void
  refer(): void
  lookUp(): void
  looking(): boolean
  writeSimulated(): void
}

/** The keys of the Solve screen: what is in the hand comes first, then the take, the pens and the tools. */
export function useSolveKeys(act: SolveActions) {
  const recording = useRecording()
  const settings = useSettings()
  const bench = useBench()
  const lines = useLines()
  const options = useOptions()
  const cells = useCells()
  const guides = useGuides()
  const choosing = () => bench.tool === 'choose' && bench.selection.length > 0
  const onGuide = () => bench.tool === 'guide' && guides.active !== null
  const inSquares = () => onGuide() && cells.inCell
  /** With a pen in hand; with a tool, the arrows are its own. */
  const writing = () => (isPen(bench.tool) && !bench.straight) || bench.tool === 'eraser'
  /** The question for which the tool in hand was taken. */
  let takenFor: string | undefined
  /** The key of the tool that was taken for this question already goes to what is typed for it. */
  function toolKey(id: ToolId) {
    if (bench.tool === id && takenFor === bench.question?.id)
      document.querySelector<HTMLElement>('[data-part=tool-options] input')?.focus()
    else bench.choose(id)
    takenFor = bench.question?.id
  }
  const nudge = (x: number, y: number) => () => bench.nudge(x, y)

  /** Keys of the take: they work wherever the focus is, with Alt in a text; what they cannot do is said. */
  function takeKeys(): Key[] {
    const whenActive = () => recording.active
    const key = (name: string, label: string, run: Key['run'], when = whenActive): Key => ({
      key: name,
      label,
      run,
      when,
      take: true,
    })
    const step = () => (recording.state === 'running' ? void recording.markStep() : notNow())
    const notNow = () =>
      recording.state === 'counting'
        ? 'The take has not begun yet: it counts down.'
        : recording.state === 'paused'
          ? 'The take is paused. Go on with P first.'
          : 'The take cannot be stored at the moment.'
    return [
      key('Space', 'Step mark: this step is done (in a text: Alt and Enter)', step),
      key('Enter', '', step, () => recording.active && document.activeElement?.closest('input, textarea') !== null),
      key('Backspace', 'Back to the last step mark; again for the one before', () => {
        if (recording.state === 'counting') return notNow()
        void recording.goBack()
      }),
      key('j', 'Your turn: the student is asked to try here', () =>
        recording.state === 'running' ? void recording.yourTurn() : notNow(),
      ),
      key('h', 'Reveal the next held line', () => (recording.state === 'running' ? bench.reveal() : notNow())),
      key('n', 'Guide: write the next move', () => (recording.state === 'running' ? guides.fillNext() : notNow())),
      key('PageDown', 'End this take and go on with the next question that is not recorded', () =>
        recording.state === 'counting' ? notNow() : act.next(),
      ),
      key('p', 'Pause, and go on', () => (recording.state === 'counting' ? notNow() : void recording.pauseOrGoOn())),
      key('s', 'Stop; the take is kept', () => void act.stop()),
    ]
  }

  useStageKeys('Solve', [
    // What is in the hand comes first: a digit goes into the square, an arrow moves what is chosen.
    ...['0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '-', '+', '=', '/'].map(sign => ({
      key: sign,
      label: sign === '0' ? 'Guide: digits and signs go into the square' : '',
      run: () => cells.typeInCell(sign),
      when: inSquares,
    })),
    { key: 'Tab', label: 'Guide: into its squares, to the next one', run: () => cells.nextCell(1), when: onGuide },
    { key: 'shift+Tab', label: 'Guide: square before', run: () => cells.nextCell(-1), when: onGuide },
    { key: 'ArrowRight', label: '', run: nudge(4, 0), when: choosing },
    { key: 'ArrowLeft', label: 'Arrows nudge what is chosen', run: nudge(-4, 0), when: choosing },
    { key: 'ArrowUp', label: '', run: nudge(0, -4), when: choosing },
    { key: 'ArrowDown', label: '', run: nudge(0, 4), when: choosing },
    { key: 'ctrl+c', label: 'Copy what is chosen', run: bench.copyChosen, when: choosing },
    { key: 'Delete', label: 'Remove what is chosen', run: bench.removeChosen, when: choosing },
    ...PEN_ROLES.map(role => ({ key: keyOfRole(role), label: '', run: () => bench.recolour(role), when: choosing })),
    ...'abcdefgh'.split('').flatMap(letter => [
      {
        key: letter,
        label: letter === 'a' ? 'Options: A to H rule out' : '',
        run: () => {
          void options.setOption(letter, 'out')
        },
        when: () => bench.tool === 'option' && options.all.some(o => o.label.toLowerCase() === letter),
      },
      {
        key: `shift+${letter}`,
        label: letter === 'a' ? 'Options: the answer' : '',
        run: () => {
          void options.setOption(letter, 'answer')
        },
        when: () => bench.tool === 'option',
      },
      {
        key: `alt+${letter}`,
        label: letter === 'a' ? 'Options: keep' : '',
        run: () => {
          void options.setOption(letter, 'stays')
        },
        when: () => bench.tool === 'option',
      },
    ]),
    { key: 'r', label: 'Record', run: act.record, when: () => recording.state === 'rest' },
    ...takeKeys(),
    { key: 'Escape', label: 'Leave the countdown', run: act.stop, when: () => recording.state === 'counting' },
    { key: 'Escape', label: 'Close the reference sheets', run: act.lookUp, when: act.looking },
    { key: 'Escape', label: 'Back to the pen', run: () => bench.choose(settings.remembered.role) },
    ...PEN_ROLES.map(role => ({ key: keyOfRole(role), label: `Pen: ${role}`, run: () => bench.choose(role) })),
    { key: 'e', label: 'Eraser', run: () => bench.choose('eraser') },
    {
      key: 'x',
      label: 'Straight lines and shapes',
      run: () => {
        bench.straight = !bench.straight
      },
    },
    ...TOOLS.map(t => ({ key: t.key, label: `${t.label}: ${t.use}`, run: () => toolKey(t.id) })),
    {
      key: 'Escape',
      label: 'Out of a field, back to the board (a tool’s key twice goes to its field)',
      run: () => {},
      when: () => false,
    },
    { key: 'h', label: 'Reveal the next held line', run: () => bench.reveal(), when: () => !recording.active },
    { key: 'n', label: 'Guide: write the next move', run: guides.fillNext, when: () => !recording.active },
    { key: 'd', label: 'Copy the last typed line and change it', run: lines.copyLastLine },
    { key: 'shift+d', label: 'Copy the last written line below', run: bench.copyLastInk },
    { key: '0', label: 'The whole frame in view again', run: () => act.backToFrame() },
    { key: 'ArrowRight', label: 'Next frame of the question', run: () => act.stepFrame(1), when: writing },
    { key: 'ArrowLeft', label: 'The frame before', run: () => act.stepFrame(-1), when: writing },
    { key: 'q', label: 'Refer to an earlier question, and back', run: act.refer },
    { key: 'l', label: 'Reference sheets', run: act.lookUp },
    { key: 'ctrl+z', label: 'Undo', run: recording.undo },
    { key: 'ctrl+y', label: 'Redo', run: recording.redo },
    {
      key: 'w',
      label: 'Simulated pen: write',
      run: act.writeSimulated,
      when: () =>
        settings.remembered.pen === 'sim:pen' && (recording.state === 'rest' || recording.state === 'running'),
    },
  ])
}
