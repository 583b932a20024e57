import fonts from 'hersheytext/hersheytext.min.json'
import { handFont, layText, seededRandom, writeByHand, type Stroke } from '../core/ink'
import type { TakeEvent } from '../core/recording'
import type { Ledger } from '../core/folio'

const font = handFont((fonts as unknown as Record<string, { chars: { d: string; o: number }[] }>).futural!.chars)
const PAGE = { id: 'p1', width: 595, height: 842 }
const FRAME = { x: 30, y: 80, w: 440, h: 247.5 }
const LINES = ['3x − 4 = 17', '3x = 21', 'x = 7', '30204 − 18657 = 11547', 'F = m·a = 6.3 N', '√180 = 6√5']

/**
 * A made-up lesson: a hand that writes two thirds of the time and wipes the board when it is full.
 * @param minutes its length; @param pointsWanted how many samples its ink has in all, at most
 * @param rest how much longer the hand rests between two lines, so that fewer samples fill the lesson
 */
export function makeLesson(minutes: number, pointsWanted = Number.POSITIVE_INFINITY, rest = 1) {
  const random = seededRandom(42)
  const events: TakeEvent[] = []
  const durationMs = minutes * 60_000
  let ids = 0
  let points = 0
  let onBoard: string[] = []
  for (let t = 500, i = 0; t < durationMs - 8000 && points < pointsWanted; i++) {
    if (i % 12 === 11) {
      events.push({ type: 'erase', t, id: `e${i}`, strokes: onBoard })
      onBoard = []
    }
    const at = { x: FRAME.x + 20 + (i % 2) * 210, y: FRAME.y + 40 + (Math.floor(i / 2) % 6) * 36 }
    const { strokes, end } = writeByHand(
      layText(font, LINES[i % LINES.length]!, at, 12).paths,
      { role: i % 5 === 4 ? 'answer' : 'working', t0: t, random },
      () => `s${ids++}`,
    )
    for (const s of strokes) {
      events.push({ type: 'stroke', t: s.points[3]!, ...s })
      onBoard.push(s.id)
      points += s.points.length / 4
    }
    t = end + (900 + random() * 1500) * rest
    if (i % 3 === 2) events.push({ type: 'step', t: Math.round(t), id: `m${i}` })
    t = Math.round(t + 50)
  }
  const marks = events.filter(e => e.type === 'step').map(e => e.t)
  const ledger: Ledger = {
    takeId: 't',
    turns: [],
    steps: [0, ...marks].map((t, i) => ({ id: `st${i}`, t, title: `Step ${i + 1}`, words: '', struck: false })),
  }
  return { events, ledger, durationMs, points, page: PAGE, frame: FRAME }
}

/** Strokes of a board with about `points` samples. */
export function fullBoard(points: number): Stroke[] {
  const strokes: Stroke[] = []
  for (const e of makeLesson(60, points).events)
    if (e.type === 'stroke') strokes.push({ id: e.id, role: e.role, tool: e.tool, points: e.points })
  return strokes
}
