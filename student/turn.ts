import type { Lesson } from '../core/lesson/form'
import { Attempt } from './attempt'
import { one, press, put } from './dom'
import type { Replay } from './replay'
import { Stage } from './stage'

/** In words, how long she may take. */
export const suggested = (seconds: number): string => {
  if (seconds < 60) return `${seconds} seconds`
  return seconds === 60 ? 'a minute' : `${Math.round(seconds / 60)} minutes`
}

/** "Your turn": what asks her to try, what she writes, and hers and the teacher's over or beside each other. */
export class Turn {
  private attempt: Attempt | null = null
  private close: (() => void) | null = null
  private index = -1

  constructor(
    private readonly section: HTMLElement,
    private readonly question: string,
    private readonly replay: Replay,
    private readonly onShowMe: () => void,
  ) {
    const on = (name: string, run: (attempt: Attempt) => void) =>
      one(section, `.own-tools ${name}`).addEventListener('click', () => {
        if (this.attempt) run(this.attempt)
        this.tools()
      })
    on('.undo', a => a.undo())
    on('.redo', a => a.redo())
    on('.erase', a => {
      a.erasing = !a.erasing
    })
    on('.clear', a => a.clear())
    on('.show', a => {
      a.shown = !a.shown
      a.draw()
    })
    on('.beside', a => this.beside(a))
    one(section, '.turn .go').addEventListener('click', () => void replay.goOn())
    one(section, '.turn .show-me').addEventListener('click', () => {
      this.onShowMe()
      void replay.goOn()
    })
    replay.stage.onDraw = view => this.attempt?.see(view)
  }

  /** What she wrote at the pause that is open, or was last. */
  get ink(): number[][] {
    return this.attempt?.strokes ?? []
  }

  /** Shows, or takes away, what asks her to try; -1 when that is over. */
  ask(index: number): void {
    const { section, replay } = this
    const card = one(section, '.turn')
    card.hidden = index < 0
    section.classList.toggle('asked', index >= 0)
    this.stopWriting()
    const turn = replay.lesson.turns[index]
    if (!turn) return
    this.closeBeside()
    put(one(card, '.about'), `about ${suggested(turn.seconds)}`)
    this.index = index
    const page = replay.lesson.views[0]!.page
    const attempt = (this.attempt = new Attempt(
      `attempt ${this.question} ${index}`,
      one<HTMLCanvasElement>(section, 'canvas.own'),
      page.dark === true,
    ))
    attempt.onChange = () => this.tools()
    replay.stage.closeIn()
    replay.stage.holds = true
    replay.stage.draw(replay.time)
    const target = one(section, '.stage')
    this.close = attempt.open((by, at, move) => {
      const { left, top, width, height } = target.getBoundingClientRect()
      replay.stage.zoomBy(by, { x: (at.x - left) / width, y: (at.y - top) / height })
      replay.stage.moveBy(move.x / width, move.y / height)
    })
    this.tools()
  }

  private stopWriting(): void {
    this.close?.()
    this.close = null
    this.replay.stage.holds = false
    if (this.attempt) this.attempt.erasing = false
    this.tools()
  }

  private tools(): void {
    const { attempt, section } = this
    const isOpen = this.close !== null
    const tool = (name: string) => one<HTMLButtonElement>(section, `.own-tools ${name}`)
    one(section, '.own-tools').hidden = !isOpen && (!attempt || attempt.isEmpty)
    for (const name of ['.undo', '.redo', '.erase', '.clear']) tool(name).hidden = !isOpen
    tool('.show').hidden = isOpen
    tool('.beside').hidden = isOpen
    tool('.undo').disabled = !attempt?.canUndo
    tool('.redo').disabled = !attempt?.canRedo
    tool('.clear').disabled = attempt?.isEmpty ?? true
    put(tool('.show'), attempt?.shown ? 'Hide mine' : 'Show mine')
    press(tool('.erase'), attempt?.erasing ?? false)
    press(tool('.beside'), section.querySelector('.stage.hers') !== null)
  }

  /** Hers on the board as it stood then, beside the teacher's; pressed again, over each other as before. */
  private beside(attempt: Attempt): void {
    if (this.closeBeside()) return
    const { lesson } = this.replay
    const [board, live, own] = ['board', 'live', 'own'].map(name =>
      Object.assign(document.createElement('canvas'), { className: name }),
    ) as [HTMLCanvasElement, HTMLCanvasElement, HTMLCanvasElement]
    const panel = Object.assign(document.createElement('div'), { className: 'stage hers' })
    panel.append(board, live, own)
    one(this.section, '.screen').classList.add('compares')
    one(this.section, '.stage').after(panel)
    const stage = new Stage(lesson, board, live)
    stage.follows = false
    stage.onDraw = view => {
      own.width = board.width
      own.height = board.height
      attempt.copyTo(own, view)
    }
    stage.draw(turnOf(lesson, this.index))
    attempt.shown = false
    attempt.draw()
  }
  /** @returns whether they were beside each other */
  private closeBeside(): boolean {
    const panel = this.section.querySelector('.stage.hers')
    if (!panel) return false
    panel.remove()
    one(this.section, '.screen').classList.remove('compares')
    if (this.attempt) {
      this.attempt.shown = true
      this.attempt.draw()
    }
    return true
  }

  release(): void {
    this.closeBeside()
    this.attempt?.release()
  }
}

const turnOf = ({ turns }: Lesson, index: number) => turns[index]?.t ?? 0
