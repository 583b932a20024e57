import { describe, expect, it } from 'vitest'
import { headerSize } from '../../core/folio'
import { mimeOf } from '../../app/paper/images'

const bytes = (...parts: (string | number[])[]) =>
  new Blob(parts.map(p => (typeof p === 'string' ? Uint8Array.from(p, c => c.charCodeAt(0)) : Uint8Array.from(p))))
const be = (n: number) => [n >>> 24, (n >>> 16) & 255, (n >>> 8) & 255, n & 255]

describe('pictures, before they are decoded', () => {
  it.each([
    ['a PDF', bytes('%PDF-1.7'), 'application/pdf'],
    ['a PNG', bytes([0x89], 'PNG\r\n'), 'image/png'],
    ['a JPEG', bytes([0xff, 0xd8, 0xff, 0xe0]), 'image/jpeg'],
    ['a WebP', bytes('RIFF', [1, 0, 0, 0], 'WEBPVP8 '), 'image/webp'],
    ['a GIF', bytes('GIF89a'), null],
    ['words', bytes('These are my notes.'), null],
    ['nothing', bytes(), null],
  ])('%s is told by its first bytes', async (_, blob, mime) => expect(await mimeOf(blob)).toBe(mime))
  it('sizes are read from headers, so that a huge picture is refused before it takes memory', async () => {
    expect(await headerSize(bytes([0x89], 'PNG\r\n\x1A\n', be(13), 'IHDR', be(20000), be(15000)), 'image/png')).toEqual(
      { width: 20000, height: 15000 },
    )
    expect(
      await headerSize(
        bytes([
          0xff, 0xd8, 0xff, 0xe1, 0, 6, 1, 2, 3, 4, 0xff, 0xc0, 0, 17, 8, 0x0b, 0xb8, 0x0f, 0xa0, 3, 0, 0, 0, 0, 0,
        ]),
        'image/jpeg',
      ),
    ).toEqual({ width: 4000, height: 3000 })
    expect(
      await headerSize(
        bytes('RIFF', [0, 0, 0, 0], 'WEBPVP8X', [10, 0, 0, 0, 0, 0, 0, 0, 0x9f, 0x0f, 0, 0xb7, 0x0b, 0, 0, 0]),
        'image/webp',
      ),
    ).toEqual({ width: 4000, height: 3000 })
    expect(await headerSize(bytes([0xff, 0xd8, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]), 'image/jpeg')).toBeNull()
    expect(await headerSize(bytes([0x89]), 'image/png')).toBeNull()
  })
})
