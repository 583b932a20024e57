import { describe, expect, it } from 'vitest'
import { clickSignal, openSimulatedMicrophone } from '../../app/devices/simulatedMicrophone'
import { openMicrophone } from '../../app/devices/microphone'
import { SoundTimeline } from '../../core/recording'
import { SoundPlacer } from '../../core/sound'
import type { Piece } from '../../app/devices/capture'

const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
/** Keeps the only thread busy, as a full machine does. */
function stall(ms: number) {
  const until = performance.now() + ms
  while (performance.now() < until);
}

describe('the simulated microphone', () => {
  it('loses nothing and stays in time on a machine that stands still again and again', async () => {
    const timeline = new SoundTimeline()
    let started = -1
    let end = 0
    const chunks: ReturnType<typeof timeline.push> = []
    const microphone = await openMicrophone({ id: 'sim:clicks', label: '', simulated: true }, (pcm, rate, at) => {
      if (started < 0) started = at
      end = Math.max(end, at - started + 10)
      chunks.push(...timeline.push(pcm, rate, at - started))
    })
    for (let i = 0; i < 4; i++) {
      await wait(150)
      stall(350)
    }
    await wait(200)
    microphone.close()
    chunks.push(...timeline.finish())
    const placer = new SoundPlacer(end)
    const pcm = [...chunks.flatMap(c => placer.push(c)), ...placer.finish()].flatMap(p => [...p])
    expect(placer.gaps).toEqual([])
    // Clicks at 1 s and 2 s of the device, which began when it was opened: heard there, but for what the first piece
    // was late.
    const loud = pcm.flatMap((v, i) => (Math.abs(v) > 20_000 ? [i / 48] : []))
    for (const second of [1000, 2000]) expect(loud.some(t => Math.abs(t - second) < 60)).toBe(true)
  })
  it('tells of its clicks, and gives pieces that follow on one another', async () => {
    const told: number[] = []
    const tell = (e: Event) => told.push((e as CustomEvent<number>).detail)
    clickSignal.addEventListener('click', tell)
    const pieces: Piece[] = []
    const started = performance.now()
    const microphone = await openSimulatedMicrophone('sim:clicks', p => pieces.push(p))
    await wait(1080)
    microphone.close()
    clickSignal.removeEventListener('click', tell)
    expect(told.length).toBeGreaterThanOrEqual(1)
    expect(Math.abs(told[0]! - started - 1000)).toBeLessThan(60)
    expect(pieces.every((p, i) => p.device === i * 10 && p.pcm.length === 480)).toBe(true)
    expect(Math.max(...pieces[100]!.pcm)).toBeGreaterThan(20_000)
  })
})
