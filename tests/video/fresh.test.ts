import { describe, expect, it } from 'vitest'
import { Page, type Folio } from '../../core/folio'
import { isFresh, pictureKey, madeFrom, reachedBy, type Origin } from '../../core/video'
import { folio, question } from '../support/make'

const ledger = (struck: boolean) => ({
  takeId: 't',
  steps: [{ id: 'a', t: 0, title: 'Find', words: '', struck }],
  turns: [],
})
const before = folio({
  questions: [question('q1', '1', { ledger: ledger(false) }), question('q2', '2', { ledger: ledger(false) })],
})
const origin = (of: Folio, questionId: string | null): Origin => ({
  questionId,
  made: madeFrom(
    of.questions.filter(q => !questionId || q.id === questionId),
    questionId ? {} : of.clips,
  ),
  pages: Object.fromEntries(of.pages.map(p => [p.id, pictureKey(p)])),
})
const edited = (edit: (f: Folio) => void) => {
  const f = structuredClone(before)
  edit(f)
  return f
}

describe('a video is still what the folio says', () => {
  const one = origin(before, 'q1'),
    all = origin(before, null)
  it('until a step of its question changes', () => {
    const after = edited(f => {
      f.questions[0]!.ledger = ledger(true)
    })
    expect([before, after].map(f => isFresh(one, f, [f.questions[0]!]))).toEqual([true, false])
    expect([before, after].map(f => isFresh(all, f, f.questions))).toEqual([true, false])
    expect(reachedBy(after, [{ ...one, publishedAt: 'then' }, origin(before, 'q2'), all])).toEqual({
      rendered: new Set(['q2']),
      published: new Set(),
    })
    expect(reachedBy(before, [{ ...one, publishedAt: 'then' }])).toEqual({
      rendered: new Set(['q1']),
      published: new Set(['q1']),
    })
  })
  it('until a page it shows is patched, turned, given room, or gone', () => {
    const patched = edited(f => {
      f.pages[0]!.patches.push({
        id: 'x',
        box: { x: 1, y: 1, w: 9, h: 9 },
        text: '12',
        before: '21',
        size: 9,
        serif: true,
      })
    })
    const turned = edited(f => {
      f.pages[0]!.turns = 1
    })
    for (const after of [
      patched,
      turned,
      edited(f => {
        f.pages[0]!.spaces.push({ id: 's', side: 'below', y: 100, size: 80, at: '2026-10-02T08:00:00.000Z' })
      }),
      edited(f => {
        f.pages = []
      }),
    ]) {
      expect(isFresh(one, after, [after.questions[0]!])).toBe(false)
    }
    const another = edited(f => {
      f.pages.push(Page.parse({ id: 'p2', kind: 'blank', paper: 'plain', width: 595, height: 842 }))
    })
    expect(isFresh(one, another, [another.questions[0]!])).toBe(true)
  })
  it('whatever the order in which its steps were put together, and whoever gets its pages', () => {
    const portrait = { shape: 'circle' as const, corner: 'top-left' as const, size: 0.3 }
    const first = edited(f => {
        f.questions[0]!.ledger = { portrait, ...ledger(false) }
      }),
      last = edited(f => {
        f.questions[0]!.ledger = { ...ledger(false), portrait }
        f.pages[0]!.handed = false
      })
    expect(isFresh(origin(first, 'q1'), last, [last.questions[0]!])).toBe(true)
    expect(isFresh(origin(first, 'q1'), before, [before.questions[0]!])).toBe(false)
  })
  it('whatever the order in which the page was written down, and when it is from before pages were known', () => {
    const [page] = before.pages
    const turned = { ...before, pages: [Object.fromEntries(Object.entries(page!).reverse()) as unknown as Page] }
    expect(isFresh(one, turned, [before.questions[0]!])).toBe(true)
    expect(
      isFresh(
        { ...one, pages: undefined },
        edited(f => {
          f.pages = []
        }),
        [before.questions[0]!],
      ),
    ).toBe(true)
  })
  it('that of the whole folio until its clips change', () => {
    const after = edited(f => {
      f.clips = { opening: { takeId: 'c', said: '' } }
    })
    expect(isFresh(all, after, after.questions)).toBe(false)
    expect(isFresh(one, after, [after.questions[0]!])).toBe(true)
  })
})
