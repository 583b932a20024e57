import { describe, expect, it } from 'vitest'
import type { Release } from '../../core/folio'
import {
  changesSince,
  changeWords,
  contentsOf,
  handedNow,
  handedOutBy,
  releasesOf,
  shownAt,
  stateAt,
  SiteVersion,
  versionBytes,
  wordsNow,
} from '../../core/publish'
import { folio, question } from '../support/make'

const at = (iso: string) => Date.parse(iso)
const now = at('2026-11-30T12:00:00Z')
const shown = (release: Release | undefined, t = now) => shownAt(release ? { release } : {}, t)

describe('what students get when', () => {
  it.each<[string, Release | undefined, string, string | null]>([
    ['nothing said', undefined, 'full', null],
    ['a date in the past', { fullFrom: '2026-11-01T08:00:00Z' }, 'full', null],
    ['this very moment', { fullFrom: '2026-11-30T12:00:00Z' }, 'full', null],
    ['a date to come', { fullFrom: '2026-12-01T08:00:00Z' }, 'closed', '2026-12-01T08:00:00Z'],
    ['a hint at once', { hint: ['s'], fullFrom: '2026-12-01T08:00:00Z' }, 'hint', '2026-12-01T08:00:00Z'],
    [
      'a hint to come',
      { hint: ['s'], hintFrom: '2026-11-30T18:00:00Z', fullFrom: '2026-12-01T08:00:00Z' },
      'closed',
      '2026-11-30T18:00:00Z',
    ],
    [
      'a hint after the solution',
      { hint: ['s'], hintFrom: '2026-12-09T18:00:00Z', fullFrom: '2026-12-01T08:00:00Z' },
      'closed',
      '2026-12-01T08:00:00Z',
    ],
    ['a hint and no date', { hint: ['s'] }, 'full', null],
    ['a hint without steps', { hint: [], fullFrom: '2026-12-01T08:00:00Z' }, 'closed', '2026-12-01T08:00:00Z'],
  ])('%s', (_, release, cut, next) => expect(shown(release)).toEqual({ cut, next: next && at(next) }))
  it('the page changes at each date that is to come, once', () => {
    const all: Release[] = [
      { fullFrom: '2026-12-01T08:00:00Z' },
      { hint: ['s'], hintFrom: '2026-11-30T18:00:00Z', fullFrom: '2026-12-01T09:00:00+01:00' },
      { fullFrom: '2026-11-01T08:00:00Z' },
    ]
    const moments = releasesOf([...all.map(release => ({ release })), {}], now)
    expect(moments).toEqual([now, at('2026-11-30T18:00:00Z'), at('2026-12-01T08:00:00Z')])
  })
  it('an hour that clocks go through twice, or leave out, is one moment', () => {
    // Central Europe, 2026: clocks go back at 01:00 UTC on 25 October, on at 01:00 UTC on 29 March (IANA tz database).
    const local = (iso: string) =>
      new Date(iso).toLocaleString('en-GB', { timeZone: 'Europe/Berlin', timeStyle: 'short', dateStyle: 'short' })
    const [first, second] = ['2026-10-25T00:30:00Z', '2026-10-25T01:30:00Z']
    expect(local(first)).toBe(local(second))
    expect(shown({ fullFrom: second }, at(first)).cut).toBe('closed')
    expect(shown({ fullFrom: second }, at(second)).cut).toBe('full')
  })
})

describe('a version', () => {
  const file = (sha: string, size: number, from: string | null = null) => ({ sha: sha.repeat(64), size, from })
  const value = {
    form: 1,
    title: 'x',
    player: { script: 's', style: 't' },
    pages: [file('a', 10), file('b', 20, '2026-12-01T08:00:00Z')],
    files: { 'x.png': file('c', 5), 'y.png': file('c', 5), 'z.m4a': file('d', 7, '2026-12-01T08:00:00Z') },
    counted: null,
  }
  it('has one page at each moment, and each content once', () => {
    const version = SiteVersion.parse(value)
    expect([now, at('2026-12-01T08:00:00Z')].map(t => stateAt(version.pages, t)?.size)).toEqual([10, 20])
    expect(stateAt(version.pages.slice(1), now)).toBeNull()
    expect([versionBytes(version), contentsOf(version).size]).toEqual([42, 4])
  })
  it.each([
    ['pages out of order', { pages: [file('a', 1, '2026-12-02T08:00:00Z'), file('b', 1, '2026-12-01T08:00:00Z')] }],
    ['two pages at once', { pages: [file('a', 1), file('b', 1)] }],
    ['a path that leads out', { files: { '../x.png': file('c', 1) } }],
    ['a name that is no content', { files: { 'x.png': { ...file('c', 1), sha: 'c' } } }],
    ['a date that is none', { pages: [file('a', 1, '2026-13-01')] }],
  ])('%s is refused', (_, wrong) => expect(SiteVersion.safeParse({ ...value, ...wrong }).success).toBe(false))
})

describe('what has changed since a version', () => {
  const questions = ['1', '2', '3'].map(n => question(`q${n}`, n))
  const before = folio({ questions })
  const version = {
    id: 'v1',
    at: '2026-11-30T12:00:00.000Z',
    bytes: 1,
    of: handedNow(questions, folio()),
    folio: wordsNow(before),
  }
  const since = (questions_: typeof questions, extra = {}) =>
    changesSince(version, folio({ questions: questions_, ...extra }), questions_)
  it('is nothing, or is named', () => {
    expect(since(questions)).toEqual({ added: [], changed: [], removed: [], words: false })
    const [one, two] = questions as [(typeof questions)[0], (typeof questions)[0]]
    const edited = [
      { ...one, title: 'Other' },
      { ...two, release: { fullFrom: '2026-12-01T08:00:00Z' } },
      question('q4', '4'),
    ]
    expect(since(edited)).toEqual({ added: ['q4'], changed: ['q1', 'q2'], removed: ['q3'], words: false })
    const answered = [{ ...one, replies: [{ id: 'r', asked: 'Why?', says: 'So.' }] }, ...questions.slice(1)]
    expect(since(answered).changed).toEqual(['q1'])
    expect(since(questions, { title: 'Other' }).words).toBe(true)
    expect(changeWords(since(questions), questions)).toEqual([])
    expect(changeWords({ ...since(edited), words: true }, edited)).toEqual([
      'new: 4',
      'changed: 1, 2',
      'no longer there: one that is gone',
      'title, plan or worksheet',
    ])
  })
  it('what students have is told by the version that they have', () => {
    const published = { id: 'p', owner: 'o', link: 'l', current: 'v1' as string | null, versions: [version] }
    expect(handedOutBy(published).map(h => h.questionId)).toEqual(['q1', 'q2', 'q3'])
    expect(handedOutBy({ ...published, current: null })).toEqual([])
  })
})
