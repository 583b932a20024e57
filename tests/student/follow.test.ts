import { describe, expect, it } from 'vitest'
import { holdsWords, placeAt, readAddress, saidOfSearch, stepEnded, turnReached } from '../../student/follow'

const places = [
  { from: 0, to: 1000 },
  { from: 1000, to: 2500 },
  { from: 3000, to: 4000 },
]

describe('where a student is', () => {
  it('is in the step that holds the moment, or in none', () => {
    expect([0, 999, 1000, 2499, 2500, 2999, 3000, 4000, -1].map(ms => placeAt(places, ms))).toEqual([
      0, 0, 1, 1, -1, -1, 2, -1, -1,
    ])
    expect(placeAt([], 5)).toBe(-1)
  })
  it('is at a pause once it was gone over, and not again from the pause on', () => {
    expect(turnReached(places, 900, 1100)).toBe(1)
    expect(turnReached(places, 900, 1000)).toBe(1)
    expect(turnReached(places, 1000, 1200)).toBe(-1)
    expect(turnReached(places, 2600, 2600)).toBe(-1)
    // Over two of them in one look, the first comes first.
    expect(turnReached(places, 500, 3500)).toBe(1)
  })
})

describe('a step that ends', () => {
  it('is told once, when its end is gone over; the last one ends with the lesson', () => {
    expect([stepEnded(places, 900, 999), stepEnded(places, 900, 1000), stepEnded(places, 1000, 1400)]).toEqual([
      -1, 0, -1,
    ])
    expect(stepEnded(places, 2400, 2600)).toBe(1)
    expect(stepEnded(places, 3900, 4100)).toBe(-1)
    expect(stepEnded([], 0, 1)).toBe(-1)
  })
})

describe('an address', () => {
  it('leads to a question and a moment; what cannot be read leads nowhere, and stops nothing', () => {
    expect(
      ['#q2', '#q2&t=43.5', '#q2&t=', '#q2&t=soon', '#q2&t=-4', '#100%', '', '#%E0%A4%A'].map(readAddress),
    ).toEqual([
      { name: 'q2', t: null },
      { name: 'q2', t: 43_500 },
      { name: 'q2', t: null },
      { name: 'q2', t: null },
      { name: 'q2', t: null },
      { name: '', t: null },
      { name: '', t: null },
      { name: '', t: null },
    ])
  })
})

describe('what a student searches for', () => {
  it.each([
    ['11 547 m are left', '11547'],
    ['11,547 m are left', '11 547'],
    ['11547 m are left', '11,547'],
    ['1\u202f234\u202f567', '1234567'],
    ['to 30 204 m', '30 204 M'],
    ['3.14 is near', '3.14'],
  ])('a number however it is spaced: “%s” holds “%s”', (text, words) => {
    expect(holdsWords(text, words)).toBe(true)
  })
  it.each([
    ['1,5 m', '15'],
    ['12 34', '1234'],
    ['2.5 and 3', '253'],
  ])('and no other: “%s” does not hold “%s”', (text, words) => {
    expect(holdsWords(text, words)).toBe(false)
  })
  it('is found however it is written; nothing finds nothing', () => {
    expect(holdsWords('The bottle holds 24 litres', ' BOTTLE holds ')).toBe(true)
    expect(['', '   '].map(words => holdsWords('anything', words))).toEqual([false, false])
    expect(
      [
        ['', 3],
        ['x', 0],
        ['x', 1],
        ['x', 12],
      ].map(([words, hits]) => saidOfSearch(words as string, hits as number)),
    ).toEqual(['', 'Nothing is found.', '1 place', '12 places'])
  })
})
