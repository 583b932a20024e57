import { describe, expect, it } from 'vitest'
import { wordsOfLessons, type Listing } from '../../core/publish/listing'
import { findIn, searchIndex } from '../../student/classSearch'

const lesson = (n: number): { address: string; listing: Listing } => ({
  address: `../../${n}/`,
  listing: {
    form: 1,
    lesson: `lesson-${n}`,
    title: `Lesson ${n}`,
    part: '',
    due: '',
    questions: [
      {
        id: 'a',
        number: '3',
        title: 'Rate of climb',
        duration: 60_000,
        print: ['A balloon climbs 30,204 m.', 'How fast?'],
        steps: [
          { t: 0, title: 'What is asked' },
          { t: 14_000, title: 'x = 24', also: 'the common denominator is 12' },
        ],
      },
    ],
  },
})
const nothing = () => null

describe('the search over all lessons', () => {
  it('finds titles, print, steps and typed maths, and leads to the moment', () => {
    const index = searchIndex(wordsOfLessons([lesson(1)]), nothing)
    expect(findIn(index, 'LESSON 1').hits).toEqual([{ address: '../../1/', text: 'Lesson 1' }])
    expect(findIn(index, '30204').hits).toEqual([{ address: '../../1/#q-a', text: 'Lesson 1, 3: Rate of climb' }])
    expect(findIn(index, 'common denominator').hits[0]!.address).toBe('../../1/#q-a&t=14')
    expect(findIn(index, '  ')).toEqual({ hits: [], count: 0 })
    expect(findIn(index, 'nowhere')).toEqual({ hits: [], count: 0 })
  })
  it('names a step that was not reached by its moment only', () => {
    const words = wordsOfLessons([lesson(1)])
    const saysOf = (seen: number) =>
      findIn(
        searchIndex(words, (of, name) => (of === 'lesson-1' && name === 'seen a' ? String(seen) : null)),
        'denominator',
      ).hits[0]!.text
    expect(saysOf(0)).toBe('Lesson 1, 3: Rate of climb, at 0:14')
    expect(saysOf(14_000)).toBe('Lesson 1, 3: Rate of climb, at 0:14')
    expect(saysOf(14_500)).toBe('Lesson 1, 3: x = 24')
  })
  it('lists forty of what it finds, and counts all of it', () => {
    const index = searchIndex(wordsOfLessons(Array.from({ length: 300 }, (_, i) => lesson(i))), nothing)
    const { hits, count } = findIn(index, 'climbs')
    expect([hits.length, count]).toEqual([40, 300])
  })
  it('passes over a lesson that tells nothing of itself', () => {
    expect(wordsOfLessons([{ address: '../../1/', listing: null }])).toEqual([])
  })
})
