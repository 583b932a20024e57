import { BlobWriter, TextReader, ZipWriter } from '@zip.js/zip.js'
import { describe, expect, it } from 'vitest'
import { archiveBlob, isSafePath, openArchive, writeArchive, FOLIO_LIMITS } from '../../core/folio'

/** A zip with whatever names, made by the library itself. */
async function rawZip(entries: [string, string][], level = 6): Promise<Blob> {
  const zip = new ZipWriter(new BlobWriter())
  for (const [name, text] of entries) await zip.add(name, new TextReader(text), { level })
  return zip.close()
}
const code = (name: string) => expect.objectContaining({ code: name })

describe('archives', () => {
  it('give back what was put in, text and bytes', async () => {
    const bytes = Uint8Array.from({ length: 3000 }, (_, i) => (i * 7) & 255)
    const archive = await openArchive(
      await archiveBlob([
        { path: 'a/text.json', data: '{"ä":1}' },
        { path: 'b.bin', data: new Blob([bytes]), store: true },
      ]),
      'x.folio',
    )
    expect(archive.names).toEqual(['a/text.json', 'b.bin'])
    expect(await archive.text('a/text.json')).toBe('{"ä":1}')
    expect(new Uint8Array(await (await archive.blob('b.bin', 'x/y')).arrayBuffer())).toEqual(bytes)
    expect((await archive.blob('b.bin', 'x/y')).type).toBe('x/y')
  })
  it('tell how far they are and can be stopped', async () => {
    const shares: number[] = []
    const sink = () => new WritableStream<Uint8Array>({ write() {} })
    await writeArchive(
      [
        { path: 'a', data: 'x'.repeat(5000) },
        { path: 'b', data: 'y' },
      ],
      sink(),
      s => shares.push(s),
    )
    expect(shares.at(-1)).toBe(1)
    await expect(writeArchive([{ path: 'a', data: 'x' }], sink(), undefined, AbortSignal.abort())).rejects.toThrow()
  })
  it.each(['../evil', '/etc/passwd', 'a/../../b', 'C:\\x', 'a\\b', 'a//b', './a', 'a\u0000b', '', 'x'.repeat(500)])(
    'refuse the path %j',
    path => {
      expect(isSafePath(path)).toBe(false)
    },
  )
  it('take ordinary paths', () => {
    for (const path of ['folio.json', 'takes/ab-1/ink.inkml', 'worksheet/Größe 2.pdf'])
      expect(isSafePath(path)).toBe(true)
  })
  it('refuse a file whose paths lead out of it, before anything is unpacked', async () => {
    const zip = await rawZip([
      ['folio.json', '{}'],
      ['../../outside.txt', 'x'],
    ])
    await expect(openArchive(zip, 'evil.folio')).rejects.toThrowError(code('archive-path'))
  })
  it('refuse a file that would swell beyond bounds', async () => {
    const zip = await rawZip([['folio.json', '0'.repeat(4 * 1024 * 1024)]], 9)
    expect(zip.size).toBeLessThan(20_000)
    await expect(openArchive(zip, 'bomb.folio')).rejects.toThrowError(code('archive-bomb'))
    const many = await rawZip([
      ['a', '1'],
      ['b', '2'],
      ['c', '3'],
    ])
    await expect(openArchive(many, 'many.folio', { ...FOLIO_LIMITS, entries: 2 })).rejects.toThrowError(
      code('archive-bomb'),
    )
  })
  it('stop when more comes out than the directory promised', async () => {
    const zip = new Uint8Array(await (await rawZip([['a.txt', 'abcdefgh'.repeat(4000)]])).arrayBuffer())
    // The uncompressed size stands at offset 24 of the central directory entry, and in the local header or descriptor.
    const view = new DataView(zip.buffer)
    for (let i = 0; i < zip.length - 46; i++)
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 10, true)
    const archive = await openArchive(new Blob([zip]), 'liar.folio')
    await expect(archive.text('a.txt')).rejects.toThrowError(
      expect.objectContaining({ code: expect.stringMatching(/archive-(bomb|damaged)/) }),
    )
  })
  it.each([
    ['empty', 0],
    ['cut in the middle', 0.5],
    ['short of its end', 0.97],
  ])('say that a file is damaged when it is %s', async (_, share) => {
    const whole = await archiveBlob([{ path: 'folio.json', data: JSON.stringify({ a: Math.PI }).repeat(200) }])
    await expect(openArchive(whole.slice(0, Math.floor(whole.size * share)), 'cut.folio')).rejects.toThrowError(
      code('archive-damaged'),
    )
  })
  it('say that a file is damaged when its contents were changed', async () => {
    const bytes = new Uint8Array(
      await (await archiveBlob([{ path: 'a.txt', data: new Blob(['hello '.repeat(500)]), store: true }])).arrayBuffer(),
    )
    bytes[200]! ^= 255
    const archive = await openArchive(new Blob([bytes]), 'flipped.folio')
    await expect(archive.text('a.txt')).rejects.toThrowError(code('archive-damaged'))
  })
})
