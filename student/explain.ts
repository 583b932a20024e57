import { encodeLesson, type Lesson } from '../core/lesson/form'
import { base64, deflated, HAND_IN_VERSION, MOST_EXPLAINED, type Explanation } from '../core/lesson/handIn'
import { clockTime } from '../core/publish/names'
import type { TakeEvent } from '../core/recording/events'
import { Attempt } from './attempt'
import { saveFile } from './files'
import { one } from './dom'
import type { QuestionView } from './question'
import { Replay } from './replay'
import { SENT, sent, takesMessages } from './send'
import { voiceClock } from './voice'
import { VoiceRecorder } from './voiceRecorder'

/** A student's own explanation: ink and voice over the bare question, recorded as a log, heard again, saved as a file. */
class Explain {
  private attempt: Attempt | null = null
  private close: (() => void) | null = null
  private replay: Replay | null = null
  private events: TakeEvent[] = []
  private readonly ids = new Map<number[], string>()
  private voice: VoiceRecorder | null = null
  /** All that was recorded here, the last one last; none is lost by recording again. */
  private readonly recordings: { lesson: Lesson; sound: Blob | null }[] = []
  private chosen = -1
  private isSettling = false
  private timer = 0
  private saved = true
  private readonly button

  constructor(
    private readonly view: QuestionView,
    private readonly panel: HTMLDetailsElement,
  ) {
    this.button = (name: string) => one<HTMLButtonElement>(panel, `.${name}`)
    panel.addEventListener('toggle', () => {
      if (panel.open) void this.begin()
      else if (this.voice) void this.stop()
    })
    this.button('record').addEventListener('click', () => {
      // A second press while the first is still at work means the same.
      if (!this.isSettling) void (this.voice ? this.stop() : this.record())
    })
    this.button('rest').addEventListener('click', () => this.rest())
    this.button('undo').addEventListener('click', () => this.attempt?.undo())
    this.button('listen').addEventListener('click', () => this.replay?.toggle())
    this.button('save').addEventListener('click', () => void this.save())
    this.button('send').addEventListener('click', () => void this.send())
    one<HTMLSelectElement>(panel, '.which').addEventListener('change', e => {
      void this.choose(Number((e.target as HTMLSelectElement).value))
    })
    addEventListener('beforeunload', e => {
      if (!this.saved) e.preventDefault()
    })
  }

  private say(what: string) {
    one(this.panel, '.done').textContent = what
  }

  /** Shows the bare question, or what was recorded. */
  private async begin() {
    this.view.replay?.pause()
    const lesson = this.view.open()?.lesson
    if (lesson && !this.made) this.sheet(this.lessonOf(lesson, 0, []))
    this.show()
  }

  /** The lesson's page with what she wrote. */
  private lessonOf({ views }: Lesson, duration: number, events: readonly TakeEvent[]): Lesson {
    const [first] = views
    return {
      duration,
      first: first!.frame,
      events,
      always: [],
      eased: [],
      views: [first!],
      documents: [],
      turns: [],
      steps: [{ t: 0, to: duration, title: '' }],
      sound: null,
    }
  }

  /** New canvases for each: a stage holds on to its own. */
  private sheet(lesson: Lesson, clock?: ConstructorParameters<typeof Replay>[3]) {
    const [board, above, own] = ['board', 'live', 'own'].map(name => {
      const canvas = document.createElement('canvas')
      canvas.className = name
      return canvas
    }) as [HTMLCanvasElement, HTMLCanvasElement, HTMLCanvasElement]
    one(this.panel, '.stage').replaceChildren(board, above, own)
    const replay = (this.replay = new Replay(lesson, board, above, clock))
    replay.stage.follows = false
    replay.watch({
      time: t => this.tell(t),
      playing: on => {
        this.button('listen').textContent = on ? 'Pause' : 'Listen'
        if (on) this.view.replay?.pause()
      },
    })
    const attempt = (this.attempt = new Attempt(null, own, lesson.views[0]!.page.dark === true))
    replay.stage.onDraw = box => attempt.see(box)
    replay.stage.draw(0)
    attempt.onChange = () => this.show()
    attempt.onAdd = line => this.add(line)
    attempt.onGone = lines => {
      const strokes = lines.map(l => this.ids.get(l)).filter(id => id !== undefined)
      if (this.voice && strokes.length)
        this.events.push({ type: 'erase', t: this.voice.time(), id: `e${this.events.length}`, strokes })
    }
    return { attempt }
  }

  private add(line: number[]) {
    if (!this.voice) return
    const id = `m${this.events.length}`
    this.ids.set(line, id)
    const points = line.map((v, k) => (k % 4 === 3 ? this.voice!.time(v) : v))
    this.events.push({ type: 'stroke', t: points[3]!, id, role: 'working', tool: 'pen', points })
  }

  private async record() {
    const lesson = this.view.open()?.lesson
    if (!lesson) return
    this.view.replay?.pause()
    this.replay?.pause()
    this.isSettling = true
    this.events = []
    this.ids.clear()
    const { attempt } = this.sheet(this.lessonOf(lesson, 0, []))
    const { voice, refused } = await VoiceRecorder.open()
    this.isSettling = false
    this.voice = voice
    this.saved = false
    this.say(refused ? 'The microphone cannot be used here; your writing is recorded without it.' : '')
    this.close = attempt.open()
    this.timer = window.setInterval(() => {
      this.tell(voice.time())
      if (voice.time() < MOST_EXPLAINED) return
      void this.stop()
      this.say('Ten minutes are the most; the recording ended there.')
    }, 250)
    this.show()
  }

  private rest() {
    if (!this.voice) return
    if (this.voice.resting) this.close = this.attempt?.open() ?? null
    else this.close?.()
    this.voice.rest()
    this.show()
  }

  private async stop() {
    const { voice } = this
    if (!voice) return
    clearInterval(this.timer)
    this.close?.()
    this.close = null
    const duration = Math.max(1, voice.time())
    this.voice = null
    this.isSettling = true
    this.show()
    const sound = await voice.stop()
    this.recordings.push({ lesson: this.lessonOf(this.view.replay!.lesson, duration, this.events), sound })
    this.isSettling = false
    await this.choose(this.recordings.length - 1)
  }

  private get made() {
    return this.recordings[this.chosen]
  }
  /** Shows one of those that were recorded. */
  private async choose(index: number) {
    this.chosen = index
    const { lesson, sound } = this.made!
    const clock = sound && (await voiceClock(await sound.arrayBuffer(), lesson.duration))
    this.sheet(lesson, clock ?? undefined)
    this.replay!.seek(lesson.duration)
    this.show()
  }

  private tell(t: number) {
    const line = one(this.panel, '.at-mine')
    const said = clockTime(t)
    if (line.textContent !== said) line.textContent = said
  }

  private show() {
    const on = this.voice !== null
    const record = this.button('record')
    record.disabled = this.isSettling
    record.textContent = on ? 'Stop' : this.made ? 'Record again' : 'Record'
    this.panel.classList.toggle('on', on)
    this.button('rest').hidden = !on
    this.button('rest').textContent = this.voice?.resting ? 'Go on' : 'Pause'
    this.button('undo').hidden = !on
    this.button('undo').disabled = !this.attempt?.canUndo
    const isThere = this.made !== undefined && !on
    this.button('listen').hidden = !isThere
    this.button('send').hidden = !takesMessages
    one(this.panel, '.after').hidden = !isThere
    const which = one<HTMLSelectElement>(this.panel, '.which')
    which.replaceChildren(
      ...this.recordings.map(
        ({ lesson }, i) => new Option(`recording ${i + 1}, ${clockTime(lesson.duration)}`, String(i)),
      ),
    )
    which.value = String(this.chosen)
    one(this.panel, '.choose').hidden = !isThere || this.recordings.length < 2
  }

  private async handIn(): Promise<Explanation> {
    const { lesson, sound } = this.made!
    const data = await deflated(encodeLesson(lesson))
    return {
      form: 'orthograph-explanation',
      version: HAND_IN_VERSION,
      ...this.view.named,
      by: one<HTMLInputElement>(this.panel, '.by').value.trim().slice(0, 80),
      says: '',
      data: base64(data),
      sound: sound && { mime: sound.type, data: base64(new Uint8Array(await sound.arrayBuffer())) },
    }
  }

  private async save() {
    if (!this.made) return
    const handIn = await this.handIn()
    const name = `${['explained', handIn.number, handIn.by].map(plainName).filter(Boolean).join('-')}.json`
    saveFile(name, handIn)
    this.saved = true
    this.say(`Saved as ${name}. Hand it to your teacher in your own way.`)
  }

  private async send() {
    if (!this.made) return
    const button = this.button('send')
    button.disabled = true
    this.say('It is being sent.')
    const answer = await sent(await this.handIn())
    button.disabled = false
    if (answer === SENT) this.saved = true
    this.say(answer)
  }
}

/** A part of a file's name: letters of any script, digits, hyphens. */
const plainName = (text: string) => text.replace(/[^\p{L}\p{N}-]+/gu, '-').replace(/^-+|-+$/g, '')

/** A student's own explanation of a question. */
export const explain = (view: QuestionView): Explain =>
  new Explain(view, one<HTMLDetailsElement>(view.section, '.explain'))
