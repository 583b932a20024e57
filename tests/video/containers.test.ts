import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  BufferTarget,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  WebMOutputFormat,
} from 'mediabunny'
import { afterAll, describe, expect, it } from 'vitest'
import { chplBody, matroskaChapters, promoteChapters } from '../../core/video'
import { probe } from '../support/media'

/**
 * Chapters in files made by the real muxer from pictures of no worth, read by ffprobe (Matroska: RFC 9559; MP4:
 * `chpl`).
 */
const dir = mkdtempSync(join(tmpdir(), 'orthograph-boxes-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))
const CASES: [string, { t: number; title: string }[]][] = [
  ['one', [{ t: 0, title: 'Only one' }]],
  [
    'three',
    [
      { t: 0, title: 'What is asked' },
      { t: 14_710, title: '30 204 − 18 657' },
      { t: 24_271, title: 'x < 3 & "y"' },
    ],
  ],
  ['many', Array.from({ length: 120 }, (_, i) => ({ t: i * 250, title: `Step ${i + 1}: ${'∑'.repeat(i % 40)}` }))],
]
const DURATION = 30_000

async function video(kind: 'mp4' | 'webm', chapters: { t: number; title: string }[]): Promise<string> {
  const bytes = kind === 'mp4' ? chplBody(chapters) : matroskaChapters(chapters, DURATION)
  const target = new BufferTarget()
  const output = new Output({
    format: kind === 'mp4' ? new Mp4OutputFormat({ metadataFormat: 'udta' }) : new WebMOutputFormat(),
    target,
  })
  const source = new EncodedVideoPacketSource('vp9')
  output.addVideoTrack(source)
  output.setMetadataTags({
    title: 'Boxes',
    artist: 'A. Teacher',
    raw: { [kind === 'mp4' ? 'chpl' : 'CHAPTERS']: bytes as Uint8Array<ArrayBuffer> },
  })
  await output.start()
  for (let t = 0; t < DURATION / 1000; t++) {
    await source.add(new EncodedPacket(new Uint8Array([0x82, 0x49, 0x83, 0x42]), 'key', t, 1), {
      decoderConfig: { codec: 'vp09.00.31.08', codedWidth: 1280, codedHeight: 720 },
    })
  }
  await output.finalize()
  const file = new Uint8Array(target.buffer!)
  if (kind === 'webm') expect(promoteChapters(file, bytes.length)).toBe(true)
  const path = join(dir, `${chapters.length}.${kind}`)
  writeFileSync(path, file)
  return path
}

describe.each(['mp4', 'webm'] as const)('%s', kind => {
  it.each(CASES)('with %s: ffprobe reads every title and time', async (_, chapters) => {
    const found = probe(await video(kind, chapters)).chapters
    expect(found.map(c => c.tags.title)).toEqual(chapters.map(c => c.title.trim()))
    found.forEach((c, i) => expect(Math.round(Number(c.start_time) * 1000)).toBe(chapters[i]!.t))
    expect(Math.abs(Number(found.at(-1)!.end_time) * 1000 - DURATION)).toBeLessThan(1001)
  })
  it('keeps its other tags and its length', async () => {
    const { format, streams } = probe(await video(kind, CASES[1]![1]))
    expect(Number(format.duration)).toBeCloseTo(DURATION / 1000, 1)
    expect(JSON.stringify(format.tags)).toContain('Boxes')
    expect(streams).toHaveLength(1)
  })
})

describe('lifting chapters', () => {
  it('moves nothing: only sizes change, and the file keeps its length', async () => {
    const path = await video('webm', CASES[1]![1])
    const after = readFileSync(path)
    const again = new Uint8Array(after)
    expect(promoteChapters(again, matroskaChapters(CASES[1]![1], DURATION).length)).toBe(false)
    expect(Buffer.compare(after, Buffer.from(again))).toBe(0)
  })
})
