import { describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import type { Ledger, Question, Thing } from '../../core/folio'
import { concernsOf } from '../../core/publish'
import type { TakeEvent } from '../../core/recording'
import { line, question } from '../support/make'
import { typed } from '../support/takenOut'

const frame = { pageId: 'p1', box: { x: 0, y: 0, w: 400, h: 225 } }
const take = { durationMs: 40_000, startedAt: '2026-11-27T10:00:00.000Z', gaps: [], frame }
const ledger: Ledger = {
  takeId: 't',
  turns: [],
  steps: [0, 10_000, 20_000].map((t, i) => ({ id: `s${i}`, t, title: '', words: '', struck: false })),
}
const place = (t: number, thing: Thing, id = `p${t}`): TakeEvent => ({ type: 'place', t, id, thing, over: 0 })
const option = (label: string, state: 'answer' | 'out'): Thing => ({
  ...{ kind: 'option', label, box: { x: 20, y: 60, w: 30, h: 12 }, state },
  ...{ reason: '', set: null, at: { x: 20, y: 60 } },
})
const ink = [1, 2, 3, 4, 5, 6].map(n => line(`l${n}`, n * 3000, { y: n * 10 }))
const wiped: TakeEvent = { type: 'erase', t: 30_000, id: 'w', strokes: ink.map(s => s.id) }

function concerns(
  events: TakeEvent[],
  of: Partial<Question> = {},
  { soundless = false, had = {}, steps = ledger }: { soundless?: boolean; had?: object; steps?: Ledger } = {},
) {
  const edition = editionOf({ take, events, ledger: steps, pages: [] })
  return concernsOf(question('q1', '4', of), edition, soundless, had).map(c => c.kind)
}
const labels = ['A', 'B'].map(label => ({ id: label, label, text: '', place: null }))

describe('what is worth a look before it goes out', () => {
  it('is nothing where all is well', () => expect(concerns(ink)).toEqual([]))
  it('is no sound, an empty board, and one that was fuller before', () => {
    expect(concerns(ink, {}, { soundless: true })).toEqual(['silent'])
    expect(concerns([...ink, wiped])).toEqual(['empty'])
    expect(concerns([...ink, wiped, line('new', 31_000)])).toEqual(['fuller'])
  })
  it('is what is much shorter than what students have, or has no steps any more', () => {
    expect(concerns(ink, {}, { had: { ms: 120_001, steps: 3 } })).toEqual(['shorter'])
    expect(concerns(ink, {}, { had: { ms: 100_000 } })).toEqual([])
    expect(concerns(ink, {}, { steps: { ...ledger, steps: ledger.steps.slice(0, 1) } })).toEqual(['steps'])
  })
  it.each<[string, Partial<Question>, TakeEvent[], boolean]>([
    ['a number that is typed', { answer: '10290 m' }, [place(9000, typed('h = 10 290 m'))], true],
    ['within its tolerance', { answer: '3.52 m/s² ± 0.03' }, [place(9000, typed('a = 3.54 m/s^2'))], true],
    ['another number', { answer: '10290 m' }, [place(9000, typed('h = 10 209 m'))], false],
    ['an equation', { answer: 'x = 24' }, [place(9000, typed('x = 24'))], true],
    ['an option', { answer: 'B', options: labels }, [place(9000, option('B', 'answer'))], true],
    ['another option', { answer: 'B', options: labels }, [place(9000, option('A', 'answer'))], false],
    ['an option that is only ruled out', { answer: 'B', options: labels }, [place(9000, option('A', 'out'))], false],
    ['ink of the answer pen', { answer: '10290 m' }, [line('a', 9000, { role: 'answer' })], true],
    [
      'an answer that was undone',
      { answer: '7' },
      [place(9000, typed('7'), 'x'), { type: 'undo', t: 9500, target: 'x' }],
      false,
    ],
    ['nothing of a part', { parts: [{ id: 'a', label: 'a', marks: 1, answer: '12', place: null }] }, [], false],
  ])('tells whether the last board shows the key: %s', (_, of, events, shows) => {
    expect(concerns([...ink, ...events], of)).toEqual(shows ? [] : ['answer'])
  })
})
