import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { timeless } from '../../workers/render/timeless'

const folder = mkdtempSync(join(tmpdir(), 'orthograph-timeless-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A sound that ffmpeg says was made then; it writes the time into each of the three kinds of box. */
function made(at: string): Uint8Array {
  const file = join(folder, 'made.m4a')
  const tone = ['-f', 'lavfi', '-i', 'sine=duration=0.4', '-c:a', 'aac', '-flags', '+bitexact', '-fflags', '+bitexact']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...tone, '-metadata', `creation_time=${at}`, file])
  return new Uint8Array(readFileSync(file))
}
const said = (bytes: Uint8Array) => {
  const file = join(folder, 'said.m4a')
  writeFileSync(file, bytes)
  const run = ['-v', 'error', '-show_entries', 'format=duration:format_tags=creation_time:stream_tags=creation_time']
  return execFileSync('ffprobe', [...run, '-of', 'json', file], { encoding: 'utf8' })
}

describe('an MP4 without the time at which it was made', () => {
  it('is the same bytes whenever it was made, and as long as before, as ffprobe reads it', () => {
    const [a, b] = ['2026-11-27T10:00:00Z', '2031-01-02T03:04:05Z'].map(made) as [Uint8Array, Uint8Array]
    expect(said(a)).toContain('2026-11-27')
    expect(Buffer.compare(a, b)).not.toBe(0)
    const { duration } = JSON.parse(said(a)).format
    timeless(a)
    timeless(b)
    expect(Buffer.compare(a, b)).toBe(0)
    expect(said(a)).not.toContain('creation_time')
    expect(JSON.parse(said(a)).format.duration).toBe(duration)
  })
  it('leaves what is no MP4, or is cut off, as it is', () => {
    for (const bytes of [
      new Uint8Array(0),
      Uint8Array.of(0, 0, 0, 255, 109, 111, 111, 118),
      made('2026-11-27T10:00:00Z').slice(0, 40),
    ]) {
      const copy = bytes.slice()
      timeless(bytes)
      expect(bytes).toEqual(copy)
    }
  })
})
