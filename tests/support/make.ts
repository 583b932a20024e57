import { FOLIO_SCHEMA, Folio, Question } from '../../core/folio/model'
import type { Stroke } from '../../core/ink/stroke'
import type { StrokeEvent } from '../../core/recording/events'

/** Small makers for tests: a stroke, an event, a folio, with only what matters named. */
export function stroke(
  id: string,
  points: number[],
  role: Stroke['role'] = 'working',
  tool: Stroke['tool'] = 'pen',
): Stroke {
  return { id, role, tool, points }
}

/** A straight stroke written from `t` over `ms`, with `n` samples. */
export function line(
  id: string,
  t: number,
  { ms = 100, n = 11, x = 0, y = 0, length = 50, role = 'working' as Stroke['role'] } = {},
): StrokeEvent {
  const points = Array.from({ length: n }, (_, i) => [
    x + (length * i) / (n - 1),
    y,
    0.5,
    Math.round(t + (ms * i) / (n - 1)),
  ]).flat()
  return { type: 'stroke', t, id, role, tool: 'pen', points }
}

export function question(id: string, number: string, extra: Partial<Question> = {}): Question {
  return {
    ...Question.parse({
      id,
      number,
      title: '',
      regions: [{ id: `r-${id}`, pageId: 'p1', box: { x: 40, y: 100, w: 400, h: 200 } }],
    }),
    ...extra,
  }
}

export function folio(extra: Partial<Folio> = {}): Folio {
  return {
    ...Folio.parse({
      schema: FOLIO_SCHEMA,
      id: 'f1',
      title: 'Test folio',
      course: '',
      author: '',
      createdAt: '2026-10-01T08:00:00.000Z',
      updatedAt: '2026-10-01T08:00:00.000Z',
      documents: [{ id: 'd1', name: 'sheet.pdf', mime: 'application/pdf', bytes: 4, pageCount: 1, password: '' }],
      pages: [{ id: 'p1', kind: 'pdf', documentId: 'd1', index: 0, width: 595.28, height: 841.89 }],
      questions: [],
    }),
    ...extra,
  }
}

/** Mono samples of a sine. @param hz its pitch; @param rate samples a second; @param at time of the first sample, s */
export function sine(hz: number, rate: number, samples: number, at = 0, amplitude = 0.5): Int16Array {
  return Int16Array.from({ length: samples }, (_, i) =>
    Math.round(32767 * amplitude * Math.sin(2 * Math.PI * hz * (at + i / rate))),
  )
}
