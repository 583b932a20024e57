import { describe, expect, it } from 'vitest'
import { Trouble } from '../../core/folio'
import { base64, deflated, encodeLesson, type Explanation, type Lesson } from '../../core/lesson'
import { readHandIn } from '../../core/publish'
import { aStuck } from '../support/handIns'
import { folio, line, question } from '../support/make'

const own = folio({ lineage: 'first', questions: [question('q1', '1')] })
const stuck = aStuck()
const lesson = (extra: Partial<Lesson> = {}): Lesson => ({
  duration: 3000,
  first: { pageId: 'p1', box: { x: 0, y: 0, w: 440, h: 247.5 } },
  events: [line('s1', 100)],
  always: [],
  eased: [],
  views: [
    {
      frame: { pageId: 'p1', box: { x: 0, y: 0, w: 440, h: 247.5 } },
      page: { id: 'p1', width: 595, height: 842 },
      pictures: [],
    },
  ],
  documents: [],
  turns: [],
  steps: [],
  sound: null,
  ...extra,
})
const explanation = async (extra: Partial<Lesson> = {}): Promise<Explanation> => ({
  form: 'orthograph-explanation',
  version: 1,
  lesson: 'first',
  question: 'q1',
  number: '1',
  says: '',
  by: 'Ada',
  data: base64(await deflated(encodeLesson(lesson(extra)))),
  sound: { mime: 'audio/webm;codecs=opus', data: btoa('sound') },
})
const refused = async (value: unknown, text = JSON.stringify(value)) => {
  const trouble = await readHandIn(text, 'hers.json', own).catch((e: unknown) => e)
  expect(trouble).toBeInstanceOf(Trouble)
  expect((trouble as Trouble).message).toContain('hers.json')
  return (trouble as Trouble).code
}

describe('what a student hands in', () => {
  it('is read as it was made: where she is stuck, with her words and ink', async () => {
    const read = await readHandIn(JSON.stringify(stuck), 'hers.json', own)
    expect(read).toMatchObject({ kind: 'stuck', stuck, question: { id: 'q1' } })
  })
  it('is an explanation that plays, with its voice', async () => {
    const read = await readHandIn(JSON.stringify(await explanation()), 'hers.json', own)
    if (read.kind !== 'explanation') throw new Error(read.kind)
    expect(read.by).toBe('Ada')
    expect(read.lesson.events).toHaveLength(1)
    expect(new TextDecoder().decode(read.sound!.data)).toBe('sound')
  })
  it('is refused with a word where it is damaged, cut off or something else', async () => {
    const whole = JSON.stringify(await explanation())
    for (const text of [
      '',
      '[]',
      'null',
      '{"form":"x"}',
      whole.slice(0, 400),
      whole.replace(/"data":"..../, '"data":"!!!!'),
    ])
      expect(await refused(null, text)).toBe('hand-in-damaged')
    for (const bad of [
      { t: -1 },
      { t: null },
      { says: 'x'.repeat(4001) },
      { attempt: [[1, 2, 3]] },
      { attempt: [[1, 2, 3, 'x']] },
      { number: {} },
    ])
      expect(await refused({ ...stuck, ...bad })).toBe('hand-in-damaged')
    expect(await refused({ ...(await explanation()), sound: { mime: 'text/html', data: '' } })).toBe('hand-in-damaged')
  })
  it('is refused where it belongs to another folio, a question or a page that is gone, or a newer version', async () => {
    expect(await refused({ ...stuck, lesson: 'other' })).toBe('hand-in-elsewhere')
    expect(await refused({ ...stuck, question: 'q9' })).toBe('hand-in-elsewhere')
    const gone = { pageId: 'p9', box: { x: 0, y: 0, w: 440, h: 247.5 } }
    expect(await refused(await explanation({ first: gone }))).toBe('hand-in-elsewhere')
    expect(await refused({ ...stuck, version: 2, t: 'any' })).toBe('hand-in-newer')
  })
  it('has nothing in it but ink: no pictures from elsewhere, nothing without end', async () => {
    const file = 'https://elsewhere.example/x.png'
    for (const extra of [
      { documents: [{ id: 'd', path: file }] },
      { duration: 3.6e6 },
      { events: [{ type: 'step', t: 1, id: 'x' }] as Lesson['events'] },
      { events: [{ type: 'erase', t: Number.NaN, id: 'x', strokes: [] }] as Lesson['events'] },
    ])
      expect(await refused(await explanation(extra))).toBe('hand-in-damaged')
  })
})
