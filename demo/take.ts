import fonts from 'hersheytext/hersheytext.min.json'
import { handFont, layText, seededRandom, writeByHand, type Path } from '../core/ink/hand'
import type { Stroke } from '../core/ink/stroke'
import type { Box } from '../core/folio/model'
import type { TakeEvent } from '../core/take/events'
import type { Lesson, Move } from './lessons'

/** Length of each spoken sentence of a lesson, ms, in order; measured when the voice was made. */
export type Durations = Record<string, number[]>

export interface PlacedSentence { text: string, at: number }
export interface SimulatedTake {
  events: TakeEvent[]
  /** Where each sentence begins, take ms. */
  sentences: PlacedSentence[]
  /** Where each step begins, take ms, and the words said in it. */
  steps: { t: number, title: string, words: string, struck: boolean }[]
  durationMs: number
}

const font = handFont((fonts as unknown as Record<string, { chars: { d: string, o: number }[] }>).futural!.chars)

/**
 * Plays a lesson with the simulated hand, in step with its spoken sentences.
 * @param durations of its sentences, ms; @param region of its question
 */
export function simulateTake(lesson: Lesson, durations: readonly number[], region: Box): SimulatedTake {
  const random = seededRandom(lesson.name.length * 7919 + lesson.place)
  let ids = 0
  const newId = () => `${lesson.name}-${++ids}`
  const events: TakeEvent[] = []
  const sentences: PlacedSentence[] = []
  const steps: SimulatedTake['steps'] = []
  let t = 600
  let sentence = 0
  lesson.steps.forEach((step, i) => {
    if (i > 0) events.push({ type: 'step', t, id: newId() })
    steps.push({ t: i === 0 ? 0 : t, title: step.title, words: step.beats.map(b => b.say).join(' '), struck: step.struck ?? false })
    t += i > 0 ? 350 : 0
    for (const beat of step.beats) {
      const said = durations[sentence++] ?? 2000
      sentences.push({ text: beat.say, at: t })
      let pen = t + 500
      for (const move of beat.write ?? []) {
        const made = perform(move, region, pen, random, newId)
        events.push(...made.strokes.map((s): TakeEvent => ({ type: 'stroke', t: s.points[3]!, ...s })))
        pen = made.end + 160
      }
      t = Math.round(Math.max(t + said, pen) + 380)
    }
  })
  return { events, sentences, steps, durationMs: t + 400 }
}

function perform(move: Move, region: Box, t0: number, random: () => number, newId: () => string): { strokes: Stroke[], end: number } {
  const paths: Path[] = 'path' in move
    ? [move.path.map((n, i) => n + (i % 2 ? region.y : region.x))]
    : layText(font, move.text, { x: region.x + move.x, y: region.y + move.y }, move.size ?? 11).paths
  return writeByHand(paths, { role: move.role ?? 'working', t0, random, speed: 105 }, newId)
}
