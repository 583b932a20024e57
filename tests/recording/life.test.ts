import { describe, expect, it } from 'vitest'
import { seededRandom } from '../../core/ink'
import {
  clockRuns,
  LIFE_EFFECTS,
  LIFE_EVENTS,
  LIFE_STATES,
  nextInLife,
  type LifeEvent,
  type LifeState,
} from '../../core/recording'

const after = (...events: LifeEvent[]) =>
  events.reduce<LifeState>((state, event) => nextInLife(state, event)?.to ?? state, 'rest')

/** A take as its store keeps it: what holds something, and whether its clock runs. */
class Kept {
  state: LifeState = 'rest'
  clock: 'none' | 'runs' | 'stands' = 'none'
  beside = 0
  send(event: LifeEvent): boolean {
    const way = nextInLife(this.state, event)
    if (!way) return false
    this.state = way.to
    for (const effect of way.effects) {
      if (effect === 'run') {
        expect(this.clock).toBe('none')
        this.clock = 'runs'
      }
      if (effect === 'halt') {
        expect(this.clock).toBe('runs')
        this.clock = 'stands'
      }
      if (effect === 'goOn') {
        expect(this.clock).toBe('stands')
        this.clock = 'runs'
      }
      if (effect === 'back') {
        expect(this.clock).not.toBe('none')
        this.clock = 'stands'
      }
      if (effect === 'quiet') {
        expect(this.clock).not.toBe('none')
        this.clock = 'stands'
      }
      if (effect === 'handOver') {
        expect(this.clock).not.toBe('none')
        this.clock = 'none'
        this.beside++
      }
      if (effect === 'reset') this.clock = 'none'
    }
    return true
  }
}

describe('the life of a take', () => {
  it('goes from getting ready to rest', () => {
    expect(after('begin', 'ready', 'pause', 'goOn', 'stop', 'written', 'settled')).toBe('rest')
    expect(after('begin', 'ready', 'back', 'counted')).toBe('running')
  })
  it('heeds Stop at any time: made ready it is given up, counting again it waits', () => {
    expect(after('begin', 'stop')).toBe('leaving')
    expect(after('begin', 'stop', 'ready')).toBe('leaving')
    expect(after('begin', 'stop', 'left')).toBe('rest')
    expect(after('begin', 'ready', 'back', 'stop')).toBe('paused')
  })
  it('ends once, however often Stop is pressed', () => {
    expect(nextInLife('ending', 'stop')).toBeNull()
    expect(nextInLife('settling', 'stop')).toBeNull()
  })
  it('that could not be stored does not go on: it is ended again, or left', () => {
    const state = after('begin', 'ready', 'stop', 'written', 'fail')
    expect(state).toBe('unstored')
    expect(LIFE_EVENTS.filter(e => nextInLife(state, e))).toEqual(['stop', 'giveUp'])
  })
  it('of the longest length does not go on as it is', () => {
    expect(after('begin', 'ready', 'longest', 'goOn')).toBe('full')
    expect(after('begin', 'ready', 'longest', 'stop', 'settled')).toBe('rest')
  })
  it('holds together under whatever happens in whatever order', () => {
    const random = seededRandom(7),
      seen = new Set<string>(),
      done = new Set<string>()
    for (let run = 0; run < 400; run++) {
      const take = new Kept()
      for (let i = 0; i < 60; i++) {
        const event = LIFE_EVENTS[Math.floor(random() * LIFE_EVENTS.length)]!
        const way = nextInLife(take.state, event)
        way?.effects.forEach(e => done.add(e))
        take.send(event)
        seen.add(take.state)
        if (take.state !== 'ending') expect(take.clock === 'runs', take.state).toBe(clockRuns(take.state))
        if (take.state === 'rest' || take.state === 'gettingReady' || take.state === 'leaving')
          expect(take.clock).toBe('none')
      }
      // From anywhere, what the teacher can do and what follows of itself leads back to rest.
      for (const event of ['stop', 'stop', 'written', 'settled', 'left'] as const) take.send(event)
      expect(take.state).toBe('rest')
    }
    expect([...seen].sort()).toEqual([...LIFE_STATES].sort())
    expect([...done].sort()).toEqual([...LIFE_EFFECTS].sort())
  })
})
