import { LETTERS } from '../core/ink/letters'
import { layText, seededRandom, writeByHand, type Path } from '../core/ink/hand'
import type { Box } from '../core/folio/model'
import type { GuideThing, Thing } from '../core/folio/thing'
import { layGuide, writeMove } from '../core/guides'
import { typeset } from '../core/maths/typeset'
import { reasonPlace } from '../core/things'
import type { TakeEvent } from '../core/recording/events'
import type { Lesson, Move } from './lessons'
import { optionBox } from './worksheet'

/** Length of each spoken sentence of a lesson, ms, in order; measured when the voice was made. */
export type Durations = Record<string, number[]>

export interface PlacedSentence {
  text: string
  at: number
}
export interface SimulatedTake {
  events: TakeEvent[]
  /** Where each sentence begins, take ms. */
  sentences: PlacedSentence[]
  /** Where each step begins, take ms, and the words said in it. */
  steps: { t: number; title: string; words: string; struck: boolean }[]
  durationMs: number
}

/**
 * Plays a lesson with the simulated hand, in step with its spoken sentences.
 * @param durations of its sentences, ms; @param region of its question
 */
export async function simulateTake(lesson: Lesson, durations: readonly number[], region: Box): Promise<SimulatedTake> {
  const random = seededRandom(lesson.name.length * 7919 + lesson.place)
  let ids = 0
  const newId = () => `${lesson.name}-${++ids}`
  const events: TakeEvent[] = []
  const sentences: PlacedSentence[] = []
  const steps: SimulatedTake['steps'] = []
  let t = 600
  let sentence = 0
  const desk: Desk = { guide: null, moves: 0, random, newId, region }
  for (const [i, step] of lesson.steps.entries()) {
    if (i > 0) events.push({ type: 'step', t, id: newId() })
    steps.push({
      t: i === 0 ? 0 : t,
      title: step.title,
      words: step.beats.map(b => b.say).join(' '),
      struck: step.struck ?? false,
    })
    t += i > 0 ? 350 : 0
    for (const beat of step.beats) {
      const said = durations[sentence++] ?? 2000
      sentences.push({ text: beat.say, at: t })
      let pen = t + 500
      for (const move of beat.write ?? []) {
        const made = await perform(move, desk, Math.round(pen))
        events.push(...made.events)
        pen = made.end + 160
      }
      t = Math.round(Math.max(t + said, pen) + 380)
    }
  }
  return { events, sentences, steps, durationMs: t + 400 }
}

/** What the hand works on: the guide that was placed last and how many of its moves are made. */
interface Desk {
  guide: { id: string; thing: GuideThing } | null
  moves: number
  random: () => number
  newId: () => string
  region: Box
}

/** Does one thing of a lesson from `t` on. @returns the events of the log, and when it is done */
async function perform(move: Move, desk: Desk, t: number): Promise<{ events: TakeEvent[]; end: number }> {
  const { region, random, newId } = desk
  const at = (p: { x: number; y: number }) => ({ x: region.x + p.x, y: region.y + p.y })
  const place = (thing: Thing, over: number): { events: TakeEvent[]; end: number } => ({
    events: [{ type: 'place', t, id: newId(), thing, over }],
    end: t + over,
  })
  if ('guide' in move) {
    const thing: GuideThing = { kind: 'guide', at: at(move), cell: move.cell, spec: move.guide, text: '' }
    const made = place(thing, 300)
    desk.guide = { id: (made.events[0] as { id: string }).id, thing }
    desk.moves = 0
    return made
  }
  if ('next' in move) {
    const events: TakeEvent[] = []
    let end = t
    for (let i = 0; i < move.next && desk.guide; i++) {
      const step = layGuide(desk.guide.thing.spec).moves[desk.moves]!
      const made = writeMove(step, desk.guide.thing.at, desk.guide.thing.cell, random, newId)
      const from = end
      const strokes = made.strokes.map(s => ({
        ...s,
        points: s.points.map((n, k) => (k % 4 === 3 ? Math.round(n + from) : n)),
      }))
      events.push({ type: 'write', t: from, id: newId(), strokes, guide: desk.guide.id, move: desk.moves++ })
      end = Math.round(from + made.end + 300)
    }
    return { events, end }
  }
  if ('line' in move) {
    const set = await typeset(move.line, move.notation ?? 'maths')
    const size = move.size ?? 13
    const x = move.x - (move.equals && set.equals !== null ? (set.equals / 1000) * size : 0)
    return place(
      {
        kind: 'line',
        at: at({ x, y: move.y }),
        size,
        role: move.role ?? 'working',
        notation: move.notation ?? 'maths',
        source: move.line,
        set,
      },
      200 + 55 * set.marks.length,
    )
  }
  if ('option' in move) {
    const i = 'ABCD'.indexOf(move.option)
    const set = move.reason ? await typeset(move.reason, 'words') : null
    const box = optionBox(i)
    return place(
      {
        kind: 'option',
        label: move.option,
        box,
        state: move.state,
        reason: move.reason ?? '',
        set,
        at: reasonPlace(box, set, [0, 1, 2, 3].filter(k => k !== i).map(optionBox)),
      },
      250,
    )
  }
  if ('turn' in move) return { events: [{ type: 'turn', t, id: newId(), seconds: move.turn, hold: move.hold }], end: t }
  if ('look' in move) {
    const box = move.look && { ...move.look, ...at(move.look) }
    return { events: [{ type: 'look', t, box, over: 700 }], end: t + 700 }
  }
  if ('words' in move)
    return place(
      { kind: 'mark', mark: move.words, role: move.role ?? 'given', boxes: move.boxes.map(b => ({ ...b, ...at(b) })) },
      200,
    )
  const paths: Path[] =
    'path' in move
      ? [move.path.map((n, i) => n + (i % 2 ? region.y : region.x))]
      : layText(LETTERS, move.text, at(move), move.size ?? 11).paths
  const made = writeByHand(paths, { role: move.role ?? 'working', t0: t, random, speed: 105 }, newId)
  return { events: made.strokes.map((s): TakeEvent => ({ type: 'stroke', t: s.points[3]!, ...s })), end: made.end }
}
