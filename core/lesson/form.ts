import type { FigureLayout } from '../figures'
import type { Frame } from '../folio/basics'
import type { GuideLayout } from '../guides'
import { POINT_SIZE } from '../ink/stroke'
import { isKnownEvent, kindOf, type TakeEvent } from '../recording/events'
import type { ScenePage } from '../scene/scene'
import type { Print } from './print'
import { NumberReader, NumberWriter } from './varints'

/** The form of a lesson's data; a page made today plays for ever, and tells when it gets one of a newer form. */
export const LESSON_FORM = 1
const MAGIC = 'OGLS'
const HEAD = 12
/** Places are kept to a twentieth of a point, pressure to a hundredth. */
const PLACE = 20
const PRESSURE = 100

/** A picture of what lies under the ink in a frame; the narrowest first. Paths are relative to the page. */
export interface LessonPicture {
  path: string
  /** Pixels. */
  width: number
}

/** A frame that the lesson shows. */
export interface LessonView {
  frame: Frame
  page: ScenePage
  /** None where there is a print. */
  pictures: LessonPicture[]
  /** What lies under the ink, where it is all shapes. */
  print?: Print
}

export interface LessonStep {
  /** Lesson ms. */
  t: number
  to: number
  title: string
  part?: string
  /** What was typed, placed and printed there, for search. */
  also?: string
}

/**
 * What the layout guides and figures of a lesson look like, by what they are made from (as JSON). It goes with the lesson,
 * so that its player draws them without knowing their methods, and draws them the same for ever.
 */
export interface LaidOut {
  guides: Record<string, Omit<GuideLayout, 'moves' | 'order'>>
  figures: Record<string, FigureLayout>
}

/** Under which name a layout stands. */
export const layoutKey = (spec: object): string => JSON.stringify(spec)

/** A question as it is replayed: its edition on lesson time, ms, and what it needs beside that. */
export interface Lesson {
  duration: number
  first: Frame
  events: readonly TakeEvent[]
  /** What was mended, done to what all the others make of what is there. */
  always: readonly TakeEvent[]
  /** Moments at which much comes or goes at once, and does so softly. */
  eased: readonly number[]
  views: LessonView[]
  /** Pictures that were put on the board, by their names there. */
  documents: { id: string; path: string }[]
  turns: { t: number; to: number; seconds: number }[]
  steps: LessonStep[]
  sound: { path: string; mime: string } | null
  /** Of lessons in which guides or figures were placed; what a student records has none. */
  laid?: LaidOut
}

/** What of a lesson's data cannot be read: it is of a newer form, or damaged. */
export class LessonTrouble extends Error {
  constructor(readonly code: 'newer' | 'damaged') {
    super(code)
  }
}

/**
 * A lesson as bytes: the letters OGLS, the form and the length of what follows as JSON (UTF-8), and the samples of all
 * ink, column by column (x, y, pressure, time), each as what it is more than where its line was going, as zigzag varints.
 */
export function encodeLesson(lesson: Lesson): Uint8Array<ArrayBuffer> {
  const all: (readonly number[])[] = []
  const bare = (events: readonly TakeEvent[]) =>
    events.map(e =>
      withSamples({ ...e, t: Math.round(e.t * 10) / 10 }, points => all.push(points as number[]) && count(points)),
    )
  const json = JSON.stringify({ ...lesson, events: bare(lesson.events), always: bare(lesson.always) })
  const numbers = new NumberWriter()
  for (let column = 0; column < POINT_SIZE; column++) {
    const scale = SCALES[column]!
    const way = new Way()
    for (const points of all) {
      way.begin()
      for (let k = column; k < points.length; k += POINT_SIZE) {
        const now = Math.round(points[k]! * scale)
        numbers.push(now - way.next)
        way.goTo(now)
      }
    }
  }
  const text = new TextEncoder().encode(json)
  const samples = numbers.finish()
  const out = new Uint8Array(HEAD + text.length + samples.length)
  for (let i = 0; i < MAGIC.length; i++) out[i] = MAGIC.charCodeAt(i)
  const head = new DataView(out.buffer)
  head.setUint32(4, LESSON_FORM)
  head.setUint32(8, text.length)
  out.set(text, HEAD)
  out.set(samples, HEAD + text.length)
  return out
}

/** Where a line of ink is going: on as it went; a new line goes from the end of the one before. */
class Way {
  at = 0
  private step = 0
  private begun = false

  begin(): void {
    this.step = 0
    this.begun = false
  }
  get next(): number {
    return this.at + this.step
  }
  goTo(now: number): void {
    this.step = this.begun ? now - this.at : 0
    this.begun = true
    this.at = now
  }
}

const SCALES = [PLACE, PLACE, PRESSURE, 1]
const count = (points: unknown) => (points as number[]).length / POINT_SIZE

/** An event with its samples as another thing: how many they are, or they themselves. */
const withSamples = (event: TakeEvent, made: (points: unknown) => unknown): TakeEvent =>
  kindOf(event).mapSamples(event, points => made(points) as number[])

/** @throws LessonTrouble `newer`, `damaged` */
export function decodeLesson(bytes: Uint8Array): Lesson {
  const damaged = () => new LessonTrouble('damaged')
  if (bytes.length < HEAD || String.fromCharCode(...bytes.subarray(0, 4)) !== MAGIC) throw damaged()
  const head = new DataView(bytes.buffer, bytes.byteOffset)
  if (head.getUint32(4) > LESSON_FORM) throw new LessonTrouble('newer')
  const length = head.getUint32(8)
  if (HEAD + length > bytes.length) throw damaged()
  const all: number[][] = []
  try {
    const json = new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(HEAD, HEAD + length))
    let left = bytes.length - HEAD - length
    const room = (value: unknown) => {
      // A sample takes four bytes at least: a larger number is none.
      if (!Number.isInteger(value) || (value as number) < 0 || (left -= 4 * (value as number)) < 0) throw damaged()
      const points = new Array<number>((value as number) * POINT_SIZE)
      all.push(points)
      return points
    }
    const bare = JSON.parse(json) as Lesson
    const whole = (events: readonly TakeEvent[]) => {
      if (!events.every(isKnownEvent)) throw new LessonTrouble('newer')
      return events.map(e => withSamples(e, room))
    }
    const lesson = { ...bare, events: whole(bare.events), always: whole(bare.always) }
    const numbers = new NumberReader(bytes.subarray(HEAD + length))
    for (let column = 0; column < POINT_SIZE; column++) {
      const way = new Way()
      for (const points of all) {
        way.begin()
        for (let k = column; k < points.length; k += POINT_SIZE) {
          way.goTo(way.next + numbers.next())
          points[k] = way.at / SCALES[column]!
        }
      }
    }
    if (!isLesson(lesson)) throw damaged()
    return lesson
  } catch (error) {
    throw error instanceof LessonTrouble ? error : damaged()
  }
}

/** Whether it has what a player asks for before it draws anything. */
function isLesson(value: Partial<Lesson> | null): value is Lesson {
  const lists = value && [
    value.events,
    value.always,
    value.eased,
    value.views,
    value.turns,
    value.steps,
    value.documents,
  ]
  return Boolean(
    lists?.every(Array.isArray) && Number.isFinite(value!.duration) && value!.first?.box && value!.views!.length,
  )
}
