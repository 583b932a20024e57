import { describe, expect, it } from 'vitest'
import { holdsWords, placeAt, saidOfSearch, turnReached } from '../../student/follow'

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

describe('what a student searches for', () => {
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
