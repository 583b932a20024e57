import { describe, expect, it } from 'vitest'
import { handedNow, openedBy, redated, withDates, type SiteVersion } from '../../core/publish'
import type { Question } from '../../core/folio'
import { folio, question } from '../support/make'

const day = (n: number) => `2026-12-${String(n).padStart(2, '0')}T08:00:00.000Z`
const at = (n: number) => Date.parse(day(n))
const released = (id: string, release?: Question['release']) => question(id, id, release ? { release } : {})
/** What a version of these questions keeps of them. */
const kept = (...questions: Question[]) => handedNow(questions, folio())

describe('an earlier version by today’s dates', () => {
  it('is there at once where today’s dates let students have all of it', () => {
    expect(redated(kept(released('1')), at(1), [released('1')], at(5))).toEqual([{ state: 0, from: null }])
  })
  it('waits for what is held back today: nothing of it before', () => {
    const [of, now] = [kept(released('1'), released('2')), [released('1'), released('2', { fullFrom: day(9) })]]
    expect(redated(of, at(1), now, at(5))).toEqual([{ state: 0, from: at(9) }])
    expect(openedBy(of, now, at(5))).toEqual(['2'])
  })
  it('goes by its own states, each when today’s dates allow it', () => {
    const hint = { hint: ['s'], hintFrom: day(2), fullFrom: day(4) }
    const of = kept(released('1', hint))
    expect(redated(of, at(1), [released('1', { ...hint, hintFrom: day(6), fullFrom: day(8) })], at(5))).toEqual([
      { state: 0, from: null },
      { state: 1, from: at(6) },
      { state: 2, from: at(8) },
    ])
    // Both are released today: the last is what students get.
    expect(redated(of, at(1), [released('1', hint)], at(5))).toEqual([{ state: 2, from: null }])
    expect(openedBy(of, [released('1', hint)], at(5))).toEqual([])
  })
  it('is not known where a version tells no dates; what it opens is told', () => {
    const bare = kept(released('1')).map(({ dates: _, ...h }) => h)
    const now = [released('1', { fullFrom: day(9) })]
    expect([redated(bare, at(1), now, at(5)), openedBy(bare, now, at(5))]).toEqual([null, ['1']])
  })
})

describe('a version with other dates', () => {
  const file = (n: number, from: string | null) => ({ sha: String(n).repeat(64), size: n, from })
  const version: SiteVersion = {
    form: 1,
    title: 'Balloon Day',
    player: { script: 's', style: 't' },
    pages: [file(1, null), file(2, day(3))],
    feeds: [file(3, null), file(4, day(3))],
    listings: [],
    files: { 'a.m4a': file(5, null), 'b.m4a': file(6, day(3)) },
    counted: null,
  }
  it('has its contents, released with the states that need them', () => {
    const made = withDates(version, [
      { state: 0, from: null },
      { state: 1, from: day(20) },
    ])!
    expect([...made.pages, ...made.feeds, ...Object.values(made.files)].map(f => [f.size, f.from])).toEqual([
      [1, null],
      [2, day(20)],
      [3, null],
      [4, day(20)],
      [5, null],
      [6, day(20)],
    ])
    const last = withDates(version, [{ state: 1, from: null }])!
    expect([last.pages.map(p => p.size), Object.values(last.files).map(f => f.from)]).toEqual([[2], [null, null]])
  })
  it('is none where its dates are no order of its states, or are its own', () => {
    expect(withDates(version, [{ state: 7, from: null }])).toBeNull()
    expect(
      withDates(version, [
        { state: 0, from: day(9) },
        { state: 1, from: day(8) },
      ]),
    ).toBeNull()
    expect(
      withDates(version, [
        { state: 0, from: null },
        { state: 1, from: day(3) },
      ]),
    ).toBeNull()
  })
})
