import { describe, expect, it } from 'vitest'
import {
  changeOf,
  changed,
  faultsOf,
  migrateFolio,
  nextChange,
  placeOf,
  withChange,
  type Folio,
} from '../../core/folio'
import { folio, question } from '../support/make'

const patch = (text: string) => ({ id: 'x', box: { x: 0, y: 0, w: 9, h: 9 }, text, before: '', size: 11, serif: true })
const long = 'a'.repeat(1500)

describe('a folio document', () => {
  it('with texts that are too long opens, with all of them, and they are named', () => {
    const of = folio({ questions: [question('q1', '4')] })
    of.pages[0]!.patches.push(patch(long))
    of.questions[0]!.title = 'b'.repeat(301)
    of.plan.next.push({ id: 'n', text: long, answer: '', hint: '' })
    const opened = migrateFolio(JSON.parse(JSON.stringify(of)), 'a.folio')
    expect(opened).toEqual(of)
    expect(faultsOf(opened).tooLong.map(l => [l.what, l.most])).toEqual([
      ['the text of a practice question', 1000],
      ['the title of question 4', 300],
      ['the text of a patch on page 1', 1000],
    ])
    expect(faultsOf(folio()).tooLong).toEqual([])
  })
  it('that is wrong in another way is told before it is stored, and does not open', () => {
    const wrong = folio({ questions: [question('q1', '1', { marks: -1 })] })
    wrong.pages[0]!.patches.push(patch(long))
    expect(faultsOf(wrong).others).toHaveLength(1)
    expect(() => migrateFolio(wrong, 'a.folio')).toThrowError(expect.objectContaining({ code: 'folio-damaged' }))
  })
})

describe('what is taken back', () => {
  const start = folio({ questions: ['1', '2', '3'].map(n => question(`q${n}`, n)) })
  const named = (of: Folio, id: string, title: string) =>
    changed(of, draft => {
      draft.questions.find(q => q.id === id)!.title = title
    })
  const a = named(start, 'q1', 'A')
  const b = named(a, 'q2', 'B')
  const c = changed(b, draft => {
    draft.plan.bring = 'rulers'
  })
  const changes = [changeOf('name', start, a), changeOf('rename', a, b), changeOf('bring', b, c)]

  it('is the last change of the question in view; one that lies elsewhere is told with its place', () => {
    expect(nextChange(changes, 'q1')).toMatchObject({ index: 0, elsewhere: false })
    expect(nextChange(changes, 'q2')).toMatchObject({ index: 1, elsewhere: false })
    expect(nextChange(changes, 'q3')).toMatchObject({ index: 2, elsewhere: true })
    expect(nextChange(changes, null)).toMatchObject({ index: 2, elsewhere: false })
    expect(nextChange([], 'q1')).toBeNull()
    expect(changes.map(placeOf)).toEqual(['question 1', 'question 2', 'the whole folio'])
  })
  it('takes along what belongs to it and nothing else, and comes back so', () => {
    const undone = withChange(c, changes[0]!, 'undo')
    expect([undone.questions.map(q => q.title), undone.plan.bring]).toEqual([['', 'B', ''], 'rulers'])
    expect(withChange(undone, changes[0]!, 'redo').questions).toEqual(c.questions)
  })
  it('leaves what was recorded, published and given up meanwhile', () => {
    const published = { id: 'p', owner: 'o', link: 'l', current: null, versions: [] }
    const before = { ...a, published }
    const change = changeOf('rename', before, named(before, 'q2', 'B'))
    expect(withChange(b, change, 'undo').published).toBeUndefined()
    expect(withChange({ ...b, published }, change, 'undo').published).toEqual(published)
  })
  it('a change of several questions goes whole, and is nobody’s alone', () => {
    const both = changed(c, draft => {
      for (const q of draft.questions) q.marks = 2
    })
    const change = changeOf('mark all', c, both)
    expect(nextChange([...changes, change], 'q1')).toMatchObject({ index: 3, elsewhere: true })
    expect(withChange(both, change, 'undo').questions.map(q => q.marks)).toEqual([null, null, null])
  })
})
