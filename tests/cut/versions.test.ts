import { describe, expect, it } from 'vitest'
import {
  Cut,
  guardStretch,
  joinSteps,
  ledgerFor,
  moveMark,
  remadeBy,
  splitStep,
  stepAlone,
  stepsAlone,
  strikeStretch,
  useVersion,
  versionInUse,
  versionsOf,
  withReadableVersions,
  withVersion,
} from '../../core/cut'
import { changed, type Ledger } from '../../core/folio'

const LEDGER: Ledger = {
  takeId: 't',
  turns: [],
  steps: [0, 2000, 4000, 6000].map((t, i) => ({ id: `s${i}`, t, title: '', words: `w${i}`, struck: false })),
}
const cut = (ledger: Ledger) => new Cut(ledger, 8000)
const sounds = (ledger: Ledger) =>
  cut(ledger).pieces.map(p => [p.at, p.ms, p.sound?.take ?? null, p.sound?.from ?? null])
const shown = (ledger: Ledger) => cut(ledger).pieces.map(p => [p.take, p.from, Number(p.speed.toFixed(3))])
const voice = (ms: number) => ({ voice: { takeId: 'v', from: 0, to: ms } })
const ink = (ms: number) => ({ anew: { takeId: 'n', from: 2000, to: 2000 + ms, over: true } })

describe('a step that is said again', () => {
  it('lasts as long as the new voice, and its ink goes by in that time', () => {
    for (const ms of [1000, 2000, 3700]) {
      const made = withVersion(LEDGER, 's1', voice(ms))
      expect(cut(made).duration).toBe(6000 + ms)
      expect(sounds(made)).toEqual([
        [0, 2000, 't', 0],
        [2000, ms, 'v', 0],
        [2000 + ms, 4000, 't', 4000],
      ])
      expect(shown(made)[1]).toEqual(['t', 2000, Number((2000 / ms).toFixed(3))])
      // What was said is no longer what it says.
      expect(made.steps.map(s => s.words)).toEqual(['w0', '', 'w2', 'w3'])
    }
  })
  it('what was struck in it stays out, and the rest fits', () => {
    const made = changed(withVersion(LEDGER, 's1', voice(3000)), l => {
      strikeStretch(l, { from: 2500, to: 3000 }, true)
      l.paces = [{ id: 'p', from: 3000, to: 4000, speed: 2 }]
    })
    const { pieces, duration } = cut(made)
    expect(duration).toBe(9000)
    // 500 ms as they were and 1000 ms twice as fast fill three seconds.
    expect(pieces.slice(1, 3).map(p => [p.from, p.ms, p.sound])).toEqual([
      [2000, 1500, { take: 'v', from: 0 }],
      [3000, 1500, { take: 'v', from: 1500 }],
    ])
    expect(cut(made).kept).toEqual([
      { from: 0, to: 2000 },
      { from: 4000, to: 8000 },
    ])
  })
  it('a pause for the student in it is silent, and the voice goes on after it', () => {
    const asked = changed(withVersion(LEDGER, 's1', voice(2000)), l => {
      l.turns = [{ id: 'u', t: 3000, seconds: 30, hold: 4 }]
    })
    expect(sounds(asked).slice(1, 4)).toEqual([
      [2000, 1000, 'v', 0],
      [3000, 4000, null, null],
      [7000, 1000, 'v', 1000],
    ])
    expect(cut(asked).turns()).toEqual([{ t: 3000, to: 7000, seconds: 30 }])
  })
})

describe('a step that is written again', () => {
  it('keeps its own sound; ink that took longer goes by faster, ink that took shorter does not go slower', () => {
    for (const [ms, speed] of [
      [4000, 2],
      [1500, 1],
    ] as const) {
      const made = withVersion(LEDGER, 's1', ink(ms))
      expect(cut(made).duration).toBe(8000)
      expect(sounds(made)[1]).toEqual([2000, 2000, 't', 2000])
      expect(shown(made)[1]).toEqual(['n', 2000, speed])
      expect(made.steps[1]!.words).toBe('w1')
    }
  })
  it('moments of its sound and of its ink are both found, and what is struck in its sound is out of its ink', () => {
    const made = changed(withVersion(LEDGER, 's1', ink(2000)), l => {
      strikeStretch(l, { from: 2500, to: 3000 }, false)
      l.turns = [{ id: 'u', t: 3500, seconds: 30, hold: 1 }]
    })
    const time = cut(made)
    expect(time.segments.filter(s => s.take === 'n').map(s => [s.from, s.to, s.out])).toEqual([
      [2000, 2500, null],
      [2500, 3000, 'ink goes'],
      [3000, 3500, null],
      [3500, 4000, null],
    ])
    expect([time.momentAt(2250), time.toTake(2250)]).toEqual([{ take: 't', t: 2250 }, 2250])
    expect([time.fromTake(3250), time.fromTake(3250, 'n'), time.holds(3250), time.holds(2700)]).toEqual([
      2750,
      2750,
      true,
      false,
    ])
    expect(time.turns()).toEqual([{ t: 3000, to: 4000, seconds: 30 }])
    expect(time.heard).toEqual([
      { from: 0, to: 2500 },
      { from: 3000, to: 8000 },
    ])
  })
})

describe('versions of a step', () => {
  const take = (id: string, as: 'anew' | 'voice' | 'ink') => ({
    id,
    durationMs: 5000,
    step: { id: 's1', as },
    ...(as === 'voice' ? {} : { after: { takeId: 't', t: 2000 } }),
  })
  it('are all kept, and each can be put in use again', () => {
    let l = ledgerFor(take('a', 'anew'), [], { ledger: LEDGER, shelved: [] })
    l = ledgerFor(take('b', 'voice'), [], { ledger: l, shelved: [] })
    l = ledgerFor(take('c', 'ink'), [], { ledger: l, shelved: [] })
    const step = () => l.steps[1]!
    expect(versionsOf(step()).map(v => [v.anew?.takeId, v.anew?.over, v.voice?.takeId])).toEqual([
      ['a', undefined, undefined],
      ['a', undefined, 'b'],
      ['c', true, 'b'],
    ])
    expect(versionInUse(step())?.anew?.takeId).toBe('c')
    for (const version of [null, ...versionsOf(step())]) {
      l = changed(l, x => useVersion(x.steps[1]!, version))
      expect(versionInUse(step())?.id ?? null).toBe(version?.id ?? null)
      expect(versionsOf(step())).toHaveLength(3)
    }
  })
  it('have each the words of the voice that is heard in it; ink written over it changes none', () => {
    let l = changed(LEDGER, x => void (x.steps[1]!.words = 'Take nine from eleven.'))
    const write = (words: string) => (l = changed(l, x => void (x.steps[1]!.words = words)))
    l = ledgerFor(take('b', 'voice'), [], { ledger: l, shelved: [] })
    expect(l.steps[1]!.words).toBe('')
    write('Take nine from twelve.')
    l = ledgerFor(take('c', 'ink'), [], { ledger: l, shelved: [] })
    expect(l.steps[1]!.words).toBe('Take nine from twelve.')
    const [said, written] = versionsOf(l.steps[1]!)
    const seen = [null, said!, null, written!, said!].map(version => {
      l = changed(l, x => useVersion(x.steps[1]!, version))
      return l.steps[1]!.words
    })
    const [own, other] = ['Take nine from eleven.', 'Take nine from twelve.']
    expect(seen).toEqual([own, other, own, other, other])
    expect(l.steps[1]!.unheard).toEqual([{ voice: null, words: own }])
  })
  it('one that was recorded before versions were kept is among them', () => {
    const old = changed(LEDGER, l => void (l.steps[1]!.anew = { takeId: 'old', from: 2000, to: 3000 }))
    expect(versionsOf(old.steps[1]!)).toHaveLength(1)
    const back = changed(old, l => useVersion(l.steps[1]!, null))
    expect([back.steps[1]!.anew, versionsOf(back.steps[1]!).length]).toEqual([undefined, 1])
  })
  it('ink over a step that was recorded anew keeps the sound of that', () => {
    const anew = withVersion(LEDGER, 's1', { anew: { takeId: 'a', from: 2000, to: 5000 } })
    const made = withVersion(anew, 's1', remadeBy(anew.steps[1]!, take('c', 'ink')))
    expect(sounds(made)[1]).toEqual([2000, 3000, 'a', 2000])
    expect(shown(made)[1]![0]).toBe('c')
  })
  it('a take whose step is gone is a take of its own', () => {
    const gone = changed(LEDGER, l => void l.steps.splice(1, 1))
    expect(ledgerFor(take('a', 'anew'), [], { ledger: gone, shelved: [] }).takeId).toBe('a')
  })
})

describe('a step that is recorded after another', () => {
  const take = (id: string, after: string, t: number) => ({
    ...{ id, durationMs: t + 1500, after: { takeId: 't', t } },
    step: { id: after, as: 'after' as const },
  })
  const add = (to: Ledger, id: string, after: string, t: number) =>
    ledgerFor(take(id, after, t), [], { ledger: to, shelved: [] })
  const takes = (l: Ledger) => cut(l).steps.map(s => s.step.anew?.takeId ?? s.step.id)
  const marks = (l: Ledger) => l.steps.map(s => s.t)
  it('comes behind it; all others stay as they are, also their sound', () => {
    const one = add(LEDGER, 'e1', 's1', 4000)
    expect(takes(one)).toEqual(['s0', 's1', 'e1', 's2', 's3'])
    expect(sounds(one)).toEqual([
      [0, 4000, 't', 0],
      [4000, 1500, 'e1', 4000],
      [5500, 4000, 't', 4000],
    ])
    expect(one.steps.filter(s => !s.added)).toEqual(LEDGER.steps)
    // Another one to the same step comes behind that; one to the last step is the end.
    expect(takes(add(one, 'e2', 's1', 4000))).toEqual(['s0', 's1', 'e1', 'e2', 's2', 's3'])
    expect(takes(add(one, 'e2', one.steps[2]!.id, 4000))).toEqual(['s0', 's1', 'e1', 'e2', 's2', 's3'])
    const last = add(LEDGER, 'e3', 's3', 8000)
    expect([takes(last), cut(last).duration]).toEqual([['s0', 's1', 's2', 's3', 'e3'], 9500])
  })
  it('stands behind it in an order of hers, too, and behind each that was added there', () => {
    const ordered = { ...LEDGER, order: ['s2', 's0', 's1', 's3'] }
    const one = add(ordered, 'e1', 's2', 6000)
    expect(takes(one)).toEqual(['s2', 'e1', 's0', 's1', 's3'])
    expect(takes(add(one, 'e2', 's2', 6000))).toEqual(['s2', 'e1', 'e2', 's0', 's1', 's3'])
  })
  it('has no length of the take: marks move past it with it, and it is joined and split with nothing', () => {
    const one = add(LEDGER, 'e1', 's1', 4000)
    const [id] = one.steps.flatMap(s => (s.added ? [s.id] : []))
    const moved = changed(one, l => expect(moveMark(l, 's2', 3000, 8000)).toBe(3000))
    expect([marks(moved), takes(moved)]).toEqual([
      [0, 2000, 3000, 3000, 6000],
      ['s0', 's1', 'e1', 's2', 's3'],
    ])
    expect(changed(one, l => expect(moveMark(l, 's2', 0, 8000)).toBe(2250)).steps.map(s => s.t)[2]).toBe(2250)
    changed(one, l => {
      expect([moveMark(l, id!, 3000, 8000), joinSteps(l, 's1'), joinSteps(l, id!)]).toEqual([null, false, false])
      expect(splitStep(l, 3000, 8000)).not.toBeNull()
    })
  })
  it('stays where the question is recorded anew from the step behind it on', () => {
    const one = add(LEDGER, 'e1', 's1', 4000)
    const again = { id: 'r', durationMs: 9000, after: { takeId: 't', t: 4000 } }
    const made = ledgerFor(again, [], { ledger: one, shelved: [] })
    expect(made.steps.map(s => s.anew?.takeId ?? s.t)).toEqual([0, 2000, 'e1', 4000])
  })
})

describe('steps alone', () => {
  const outs = (l: Ledger) => cut(l).segments.map(s => s.out)
  it('stand on what comes before them, and nothing comes after', () => {
    expect(outs(stepsAlone(LEDGER, new Set(['s1', 's2'])))).toEqual(['ink stays', null, null, 'ink goes'])
    expect(outs(stepsAlone({ ...LEDGER, order: ['s2', 's0', 's1', 's3'] }, new Set(['s0'])))).toEqual([
      'ink stays',
      null,
      'ink goes',
      'ink goes',
    ])
  })
  it('what is out with its ink does not come back', () => {
    const l = changed(LEDGER, x => {
      x.steps[0]!.struck = true
      strikeStretch(x, { from: 2200, to: 2400 }, false)
    })
    expect(outs(stepAlone(l, 's2', null))).toEqual(['ink goes', 'ink stays', 'ink goes', 'ink stays', null, 'ink goes'])
  })
  it('a version is shown alone as well, without pauses for the student', () => {
    const l = changed(LEDGER, x => void (x.turns = [{ id: 'u', t: 3000, seconds: 30, hold: 9 }]))
    expect(cut(stepAlone(l, 's1', voice(1200))).duration).toBe(1200)
    expect(cut(stepAlone(l, 's1', null)).duration).toBe(2000)
  })
})

describe('what is protected', () => {
  it('is joined with what it meets, and protected no longer when it is asked for again', () => {
    const l = changed(LEDGER, x => {
      guardStretch(x, { from: 1000, to: 2000 })
      guardStretch(x, { from: 1900, to: 3000.4 })
      guardStretch(x, { from: 5000, to: 5500 })
    })
    expect(l.guards!.map(g => [g.from, g.to])).toEqual([
      [1000, 3000],
      [5000, 5500],
    ])
    expect(changed(l, x => guardStretch(x, { from: 1200, to: 1300 })).guards).toHaveLength(1)
  })
})

describe('a step of which a version cannot be read', () => {
  it('is shown as its last version that can be, else as it was first recorded; nothing is thrown away', () => {
    const [a, b] = ['a', 'b'].map(takeId => ({ anew: { takeId, from: 2000, to: 3000 } }))
    const twice = withVersion(withVersion(LEDGER, 's1', a!), 's1', b!)
    const anewOf = (l: Ledger) => l.steps[1]!.anew?.takeId
    expect(anewOf(withReadableVersions(twice, new Set(['b'])))).toBe('a')
    expect(anewOf(withReadableVersions(twice, new Set(['a', 'b'])))).toBeUndefined()
    expect(withReadableVersions(twice, new Set(['c']))).toEqual(twice)
    for (const bad of [['b'], ['a', 'b']])
      expect(withReadableVersions(twice, new Set(bad)).steps[1]!.versions).toHaveLength(2)
    const added = { ...twice, steps: twice.steps.map(s => ({ ...s, ...(s.id === 's1' ? { added: true } : {}) })) }
    expect(withReadableVersions(added, new Set(['a', 'b'])).steps[1]!.struck).toBe(true)
  })
})
