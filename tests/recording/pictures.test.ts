import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { CameraWatch, keyPictureSize, pictureGaps, PictureTrack, TakeClock } from '../../core/recording'

const data = new Uint8Array([1])

describe('the pictures of a camera', () => {
  it('are laid on the clock of the take; those of a pause, and what hangs on them, are left out', () => {
    const clock = new TakeClock()
    const track = new PictureTrack(clock)
    expect(track.push({ data, key: true }, 900)).toBeNull()
    clock.run(1000)
    expect(track.push({ data, key: false }, 1010)).toBeNull()
    expect(track.push({ data, key: true }, 1050)).toMatchObject({ t: 50, key: true })
    expect(track.push({ data, key: false }, 1090)).toMatchObject({ t: 90 })
    clock.halt(1100)
    expect(track.push({ data, key: true }, 1130)).toBeNull()
    clock.run(5000)
    expect(track.push({ data, key: false }, 5010)).toBeNull()
    expect(track.push({ data, key: true }, 5040)).toMatchObject({ t: 140 })
  })
  it('never go back in time, also where the camera’s clock is corrected', () => {
    const clock = new TakeClock()
    clock.run(0)
    const track = new PictureTrack(clock)
    const times = [100, 140, 120, 121, 200].map((at, i) => track.push({ data, key: i === 0 }, at)!.t)
    expect(times).toEqual([100, 140, 141, 142, 200])
  })
  it('leave gaps where none came for a while: before the first, between, at the end', () => {
    const every = (from: number, to: number) =>
      Array.from({ length: Math.round((to - from) / 40) }, (_, i) => from + i * 40)
    expect(pictureGaps(every(0, 5000), 5000)).toEqual([])
    expect(pictureGaps([...every(2000, 3000), ...every(6000, 7000)], 9000)).toEqual([
      { from: 0, to: 2000 },
      { from: 3960, to: 6000 },
      { from: 7960, to: 9000 },
    ])
    expect(pictureGaps([], 3000)).toEqual([{ from: 0, to: 3000 }])
  })
  it('tell their size, as ffmpeg codes them', () => {
    const folder = mkdtempSync(join(tmpdir(), 'orthograph-vp8-'))
    const file = join(folder, 'a.ivf')
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'testsrc=size=638x358:rate=10',
      '-frames:v',
      '2',
      '-c:v',
      'libvpx',
      file,
    ])
    const ivf = readFileSync(file)
    // An IVF file: a header of 32 bytes, then for each picture 12 bytes, of which the first four are its length.
    const length = ivf.readUInt32LE(32)
    expect(keyPictureSize(ivf.subarray(44, 44 + length))).toEqual({ width: 638, height: 358 })
    expect(keyPictureSize(ivf.subarray(44 + length + 12))).toBeNull()
    rmSync(folder, { recursive: true })
  })
})

describe('the watch over a camera', () => {
  it('tells when it stands still or is dark, and when that has passed', () => {
    const watch = new CameraWatch(0)
    for (let t = 0; t <= 2000; t += 40) watch.push(120, t)
    expect(watch.warnings(2500)).toEqual([])
    expect(watch.warnings(3300)).toMatchObject([{ fault: 'camera-still' }])
    for (let t = 3400; t <= 5400; t += 40) watch.push(4, t)
    expect(watch.warnings(5410)).toMatchObject([{ fault: 'camera-dark', since: 3400 }])
    watch.push(90, 5440)
    expect(watch.warnings(5450)).toEqual([])
  })
})
