import { describe, expect, it } from 'vitest'
import {
  ClockOffset,
  settleJournal,
  SoundTimeline,
  TakeClock,
  TakeRecorder,
  type JournalEntry,
  type Picture,
  type SoundChunk,
} from '../../core/recording'
import { seededRandom } from '../../core/ink'

/** A sink that keeps what it is given, and can refuse. */
function memorySink() {
  const kept = { journal: [] as JournalEntry[], chunks: [] as SoundChunk[], pictures: [] as Picture[], refuse: false }
  return {
    kept,
    journal: async (_: number, entries: JournalEntry[]) => {
      if (kept.refuse) throw new DOMException('full', 'QuotaExceededError')
      kept.journal.push(...structuredClone(entries))
    },
    sound: async (chunks: SoundChunk[]) => {
      if (kept.refuse) throw new DOMException('full', 'QuotaExceededError')
      kept.chunks.push(...chunks)
    },
    pictures: async (_: number, pictures: Picture[]) => {
      if (kept.refuse) throw new DOMException('full', 'QuotaExceededError')
      kept.pictures.push(...pictures)
    },
  }
}
const sample = (x: number, y: number, now: number, pressure = 0.5) => ({ x, y, pressure, now })

describe('the clock of a take', () => {
  it('stands still in a pause, and is seamless', () => {
    const clock = new TakeClock()
    clock.run(1000)
    clock.halt(1500)
    clock.run(9000)
    expect([900, 1000, 1200, 1500, 5000, 9000, 9100].map(t => clock.at(t))).toEqual([0, 0, 200, 500, 500, 500, 600])
    expect(clock.runningPieces(1400, 9050)).toEqual([
      { from: 1400, to: 1500, at: 400 },
      { from: 9000, to: 9050, at: 500 },
    ])
    expect(clock.runningPieces(1600, 8000)).toEqual([])
  })
  it('starting twice or stopping twice changes nothing', () => {
    const clock = new TakeClock()
    clock.run(0)
    clock.run(50)
    clock.halt(100)
    clock.halt(200)
    expect(clock.at(300)).toBe(100)
  })
})

describe('learning a device’s clock', () => {
  it('goes by what arrives most punctually', () => {
    const clock = new ClockOffset()
    const random = seededRandom(3)
    let last = 0
    for (let i = 0; i < 500; i++) last = clock.place(i * 10, i * 10 + 5000 + random() * 30)
    expect(last).toBeGreaterThan(4990 + 5000)
    expect(last).toBeLessThan(4990 + 5003)
  })
  it('follows a clock that drifts by 200 ppm', () => {
    const clock = new ClockOffset()
    const random = seededRandom(4)
    let worst = 0
    for (let i = 0; i < 60_000; i++) {
      const true_ = i * 10
      const placed = clock.place(true_ * 1.0002, true_ + 800 + random() * 8)
      if (i > 100) worst = Math.max(worst, Math.abs(placed - true_ - 800))
    }
    expect(worst).toBeLessThan(8)
  })
  it('is not misled by a second and more of standstill, after which everything arrives at once', () => {
    const clock = new ClockOffset()
    const placed: number[] = []
    for (let i = 0; i < 600; i++)
      placed.push(clock.place(i * 10, i >= 200 && i < 350 ? 100 + 3500 : 100 + i * 10 + (i % 3)))
    for (const [i, at] of placed.entries()) expect(Math.abs(at - 100 - i * 10)).toBeLessThan(3)
  })
  it('notices a device that begins to count anew', () => {
    const clock = new ClockOffset()
    clock.place(4040, 4107)
    clock.place(4060, 4112)
    expect(clock.place(40, 4113)).toBe(4113)
    expect(clock.place(50, 4121)).toBe(4121)
  })
})

describe('placing sound in steady pieces', () => {
  const RATE = 44_100
  function feed(buffers: { at: number; n?: number }[]) {
    const timeline = new SoundTimeline()
    const out = buffers.flatMap(b => timeline.push(new Int16Array(b.n ?? 441), RATE, b.at))
    return [...out, ...timeline.finish()]
  }
  const total = (chunks: SoundChunk[]) => chunks.reduce((sum, c) => sum + c.pcm.length, 0)
  it('makes one even run out of buffers that come late now and then', () => {
    const random = seededRandom(8)
    const chunks = feed(
      Array.from({ length: 600 }, (_, i) => ({ at: i * 10 + (random() < 0.3 ? random() * 40 : random()) })),
    )
    expect(total(chunks)).toBe(600 * 441)
    for (let i = 1; i < chunks.length; i++) {
      const ends = chunks[i - 1]!.t0 + (chunks[i - 1]!.pcm.length / RATE) * 1000
      expect(Math.abs(chunks[i]!.t0 - ends)).toBeLessThan(2.5)
    }
    expect(chunks.map(c => c.seq)).toEqual(chunks.map((_, i) => i))
  })
  it('shows a lost stretch as a step between pieces, where it happened', () => {
    const chunks = feed(Array.from({ length: 300 }, (_, i) => ({ at: i * 10 + (i >= 120 ? 90 : 0) })))
    const step = chunks.findIndex(
      (c, i) => i > 0 && c.t0 - (chunks[i - 1]!.t0 + (chunks[i - 1]!.pcm.length / RATE) * 1000) > 50,
    )
    expect(chunks[step]!.t0).toBeCloseTo(1290, 0)
  })
  it('gives out what it has when the rate changes and at the end', () => {
    const timeline = new SoundTimeline()
    expect(timeline.push(new Int16Array(441), 44_100, 0)).toEqual([])
    const changed = timeline.push(new Int16Array(480), 48_000, 10)
    expect(changed).toHaveLength(1)
    expect(timeline.finish()[0]).toMatchObject({ rate: 48_000, t0: 10 })
    expect(timeline.finish()).toEqual([])
  })
})

describe('recording a take', () => {
  it('writes strokes, steps and undo into the journal on the take’s clock', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(1000)
    const id = r.penDown('answer', 'pen', sample(10.004, 20.006, 1100, 0.4567))
    r.penMove([sample(11, 21, 1110), sample(11, 21, 1115), sample(12, 22, 1120)])
    r.penUp()
    expect(r.markStep(1500)).toBe(500)
    r.undo(1600)
    expect(await r.stop(2000)).toBe(1000)
    const events = settleJournal(sink.kept.journal)
    expect(events).toEqual(r.events)
    expect(events[0]).toEqual({
      type: 'stroke',
      t: 100,
      id,
      role: 'answer',
      tool: 'pen',
      points: [10, 20.01, 0.457, 100, 11, 21, 0.5, 110, 12, 22, 0.5, 120],
    })
    expect(events.slice(1).map(e => [e.type, e.t])).toEqual([
      ['step', 500],
      ['undo', 600],
    ])
  })
  it('keeps all of a stroke in the middle of which a step was marked', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(0)
    r.penDown('working', 'pen', sample(0, 0, 10))
    r.markStep(15)
    r.penMove([sample(1, 1, 20), sample(2, 2, 30)])
    expect(r.growing?.points.length).toBe(12)
    r.penUp()
    await r.stop(100)
    expect((r.events[0] as { points: number[] }).points.length).toBe(12)
    expect(settleJournal(sink.kept.journal)).toEqual(r.events)
  })
  it('leaves out samples that are no numbers', async () => {
    const r = new TakeRecorder(memorySink())
    r.start(0)
    r.penDown('working', 'pen', sample(0, 0, 0, Number.NaN))
    r.penMove([sample(Number.NaN, 1, 5), sample(1, 1, 10, Number.NaN), sample(2, 2, 15, 7)])
    expect((r.events[0] as { points: number[] }).points).toEqual([0, 0, 0.5, 0, 2, 2, 1, 15])
  })
  it('writes nothing while paused, and goes on seamlessly', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(0)
    r.pause(100)
    expect(r.paused).toBe(true)
    expect(r.penDown('working', 'pen', sample(0, 0, 150))).toBeNull()
    r.erase(['x'], 160)
    r.undo(170)
    r.redo(180)
    r.resume(5100)
    expect(r.penDown('working', 'mouse', sample(0, 0, 5150))).not.toBeNull()
    expect(r.events.map(e => [e.type, e.t])).toEqual([
      ['pause', 100],
      ['stroke', 150],
    ])
    expect(r.events[0]).toMatchObject({ away: 5000 })
    expect(await r.stop(5200)).toBe(200)
  })
  it('keeps only the sound of the running take', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(1000)
    for (let t = 900; t < 3000; t += 10) {
      if (t === 1500) r.pause(t)
      if (t === 2500) r.resume(t)
      r.sound(new Int16Array(480), 48_000, t)
    }
    await r.stop(3000)
    const ms = sink.kept.chunks.reduce((sum, c) => sum + c.pcm.length, 0) / 48
    expect(ms).toBeCloseTo(1000, 0)
    expect(sink.kept.chunks[0]!.t0).toBe(0)
    const last = sink.kept.chunks.at(-1)!
    expect(last.t0 + last.pcm.length / 48).toBeCloseTo(1000, 0)
  })
  it('has everything on disk soon after a pause', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(0)
    for (let t = 0; t < 600; t += 10) r.sound(new Int16Array(480), 48_000, t)
    r.pause(600)
    await r.flush()
    expect(sink.kept.chunks.reduce((sum, c) => sum + c.pcm.length, 0)).toBe(600 * 48)
    for (let t = 600; t < 700; t += 10) r.sound(new Int16Array(480), 48_000, t)
    r.resume(700)
    for (let t = 700; t < 1000; t += 10) r.sound(new Int16Array(480), 48_000, t)
    expect(await r.stop(1000)).toBe(900)
    expect(sink.kept.chunks.reduce((sum, c) => sum + c.pcm.length, 0)).toBe(900 * 48)
  })
  it('loses nothing when the store is full for a while, and says so', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    const troubles: string[] = []
    r.onTrouble = t => troubles.push(t.code)
    r.start(0)
    sink.kept.refuse = true
    r.penDown('working', 'pen', sample(0, 0, 10))
    for (let t = 0; t < 1000; t += 10) r.sound(new Int16Array(480), 48_000, t)
    await r.flush()
    expect(troubles).toEqual(['storage-full'])
    expect(r.unsaved.entries).toBe(1)
    expect(r.unsaved.chunks).toBeGreaterThan(0)
    r.penMove([sample(1, 1, 20)])
    sink.kept.refuse = false
    await r.stop(1000)
    expect(r.unsaved).toEqual({ entries: 0, chunks: 0, pictures: 0 })
    expect(settleJournal(sink.kept.journal)).toEqual(r.events)
    expect(sink.kept.chunks.map(c => c.seq)).toEqual(sink.kept.chunks.map((_, i) => i))
  })
  it('has at most 0.75 s of sound that is not handed to the store after each flush', async () => {
    const sink = memorySink()
    const r = new TakeRecorder(sink)
    r.start(0)
    let worst = 0
    for (let t = 0; t < 20_000; t += 10) {
      r.sound(new Int16Array(480), 48_000, t)
      if (t % 250 === 0) await r.flush()
      const last = sink.kept.chunks.at(-1)
      worst = Math.max(worst, t + 10 - (last ? last.t0 + last.pcm.length / 48 : 0))
    }
    expect(worst).toBeLessThanOrEqual(750)
  })
  it('finds what undo would take back after strokes and erasing', () => {
    const r = new TakeRecorder(memorySink())
    r.start(0)
    const a = r.penDown('working', 'pen', sample(0, 0, 1))!
    r.penUp()
    r.erase([a], 50)
    expect(r.board.last().strokes).toHaveLength(0)
    r.undo(60)
    expect(r.board.last().strokes).toHaveLength(1)
    r.undo(70)
    expect(r.board.last().strokes).toHaveLength(0)
    r.redo(80)
    r.redo(90)
    expect(r.board.last().strokes).toHaveLength(0)
    expect(r.redoTarget).toBeUndefined()
  })
})
