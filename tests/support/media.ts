import { execFileSync, spawnSync } from 'node:child_process'
import { expect } from 'vitest'

/** Independent tools that read what the product makes: ffprobe and ffmpeg. */
export interface Probe {
  format: { duration: string; tags?: Record<string, string> }
  streams: {
    codec_type: string
    codec_name: string
    duration?: string
    nb_read_frames?: string
    width?: number
    height?: number
  }[]
  chapters: { start_time: string; end_time: string; tags: { title: string } }[]
}

export function probe(file: string): Probe {
  return JSON.parse(
    execFileSync(
      'ffprobe',
      ['-v', 'error', '-count_frames', '-show_format', '-show_streams', '-show_chapters', '-of', 'json', file],
      { encoding: 'utf8', maxBuffer: 1 << 26 },
    ),
  ) as Probe
}

/** Decodes everything. @returns what ffmpeg complained about; nothing for a good file */
export function decodeErrors(file: string): string {
  const { stderr, status } = spawnSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-fps_mode', 'passthrough', '-enc_time_base:v', '1/1000', '-f', 'null', '-'],
    { encoding: 'utf8' },
  )
  return stderr + (status === 0 ? '' : ` (ended with ${status})`)
}

/** The sound of a file: mono samples at 48 kHz. */
export function soundOf(file: string): Int16Array {
  const pcm = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-vn', '-ac', '1', '-ar', '48000', '-f', 's16le', '-'],
    { maxBuffer: 1 << 30 },
  )
  return new Int16Array(pcm.buffer.slice(pcm.byteOffset, pcm.byteOffset + pcm.byteLength))
}

/** When the pictures of a video are shown, seconds. */
export function pictureTimes(file: string): number[] {
  return execFileSync(
    'ffprobe',
    ['-v', 'error', '-select_streams', 'v', '-show_entries', 'frame=pts_time', '-of', 'csv=p=0', file],
    { encoding: 'utf8' },
  )
    .trim()
    .split('\n')
    .map(l => Number.parseFloat(l))
}

/** Saves the picture shown at a moment. @param at seconds */
export function frameAt(file: string, at: number, png: string): void {
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-ss', at.toFixed(3), '-i', file, '-frames:v', '1', png])
}

/**
 * Likeness of two pictures: peak signal-to-noise ratio of all channels, dB.
 * @param a a picture, or a video and its moment, s
 * @param size to which both are brought first
 */
export function likeness(
  a: string | { video: string; at: number },
  b: string,
  size?: { width: number; height: number },
): number {
  const input = typeof a === 'string' ? ['-i', a] : ['-ss', a.at.toFixed(3), '-i', a.video]
  const first = `[0:v]trim=end_frame=1${size ? `,scale=${size.width}:${size.height}` : ''}[a]`
  const second = `[1:v]${size ? `scale=${size.width}:${size.height}` : 'null'}[b]`
  const { stderr } = spawnSync(
    'ffmpeg',
    ['-hide_banner', ...input, '-i', b, '-lavfi', `${first};${second};[a][b]psnr`, '-f', 'null', '-'],
    { encoding: 'utf8' },
  )
  const match = /average:(inf|[\d.]+)/.exec(stderr)
  return match?.[1] === 'inf' ? 99 : Number(match?.[1])
}

/**
 * Expects that what is told as missing of the camera is what its file does not have, by ffprobe's times: a picture is
 * shown for a second at most.
 * How much a machine loses that does much beside it is no matter of right and wrong.
 */
export function toldGaps(
  file: string,
  { durationMs, camera }: { durationMs: number; camera?: { gaps: { from: number; to: number }[] } },
): void {
  const times = pictureTimes(file).map(t => t * 1000)
  const missing = [...times, durationMs]
    .map((to, i) => ({ from: i ? times[i - 1]! + 1000 : 0, to }))
    .filter(({ from, to }, i) => to - from > (i ? 1 : 1000))
  expect(camera!.gaps.length, JSON.stringify({ gaps: camera!.gaps, missing })).toBe(missing.length)
  camera!.gaps.forEach((gap, i) =>
    expect(Math.max(Math.abs(gap.from - missing[i]!.from), Math.abs(gap.to - missing[i]!.to))).toBeLessThanOrEqual(2),
  )
}

/** Samples at 12 kHz: enough for a tenth of a millisecond. */
export function thinned(pcm: Int16Array): Float32Array {
  return Float32Array.from({ length: pcm.length >> 2 }, (_, i) => {
    const k = i * 4
    return (pcm[k]! + pcm[k + 1]! + pcm[k + 2]! + pcm[k + 3]!) / 4
  })
}

/** By how much a stretch of one sound is later in another than it should be, ms; null where it is too quiet to tell. */
export function lag(own: Float32Array, from: number, other: Float32Array, at: number, ms: number): number | null {
  const [a, b, n] = [from, at, ms].map(t => Math.round(t * 12)) as [number, number, number]
  let power = 0
  for (let i = 0; i < n; i++) power += (own[a + i] ?? 0) ** 2
  if (Math.sqrt(power / n) < 300) return null
  let best = { off: 0, score: -Infinity }
  for (let off = -360; off <= 360; off++) {
    let sum = 0
    let energy = 0
    for (let i = 0; i < n; i++) {
      const x = other[b + i + off] ?? 0
      sum += (own[a + i] ?? 0) * x
      energy += x * x
    }
    const score = sum / Math.sqrt(energy * power || 1)
    if (score > best.score) best = { off, score }
  }
  if (best.score < 0.5) throw new Error(`the sound at ${from} ms is not found near ${at} ms`)
  return best.off / 12
}
