import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateSync } from 'node:zlib'
import { makeWorksheet } from '../../demo/worksheet'

/** Files as teachers bring them, good and bad, in a folder of their own. */
export async function makeFiles() {
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-files-'))
  const put = (name: string, bytes: Uint8Array | string) => {
    const path = join(dir, name)
    writeFileSync(path, bytes)
    return path
  }
  const worksheet = put('worksheet.pdf', await makeWorksheet())
  const locked = join(dir, 'locked.pdf')
  execFileSync('qpdf', ['--encrypt', 'open sesame', 'owner', '256', '--', worksheet, locked])
  const bytes = await makeWorksheet()
  return {
    dir, worksheet, locked,
    many: put('many.pdf', await numbered(12)),
    long: put('long.pdf', await numbered(1000)),
    empty: put('empty.pdf', ''),
    text: put('notes.pdf', 'These are only my notes, not a PDF.'),
    truncated: put('truncated.pdf', bytes.slice(0, Math.floor(bytes.length * 0.4))),
    image: put('photo.pdf', png()),
    put,
  }
}

async function numbered(pages: number): Promise<Uint8Array> {
  const pdf = await PDFDocument.create()
  const font = await pdf.embedFont(StandardFonts.Helvetica)
  for (let i = 1; i <= pages; i++) pdf.addPage([595, 842]).drawText(`Page ${i}`, { x: 60, y: 760, size: 24, font })
  return pdf.save()
}

/** A one-pixel PNG. */
function png(): Uint8Array {
  const crcTable = Array.from({ length: 256 }, (_, n) => { let c = n; for (let k = 0; k < 8; k++) c = c & 1 ? 0xEDB88320 ^ (c >>> 1) : c >>> 1; return c >>> 0 })
  const chunk = (type: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(type), data])
    const crc = body.reduce((c, b) => crcTable[(c ^ b) & 255]! ^ (c >>> 8), 0xFFFFFFFF) ^ 0xFFFFFFFF
    const out = Buffer.alloc(body.length + 8)
    out.writeUInt32BE(data.length, 0)
    body.copy(out, 4)
    out.writeUInt32BE(crc >>> 0, body.length + 4)
    return out
  }
  return Buffer.concat([Buffer.from([0x89, 0x50, 0x4E, 0x47, 13, 10, 26, 10]), chunk('IHDR', Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 2, 0, 0, 0])), chunk('IDAT', deflateSync(Buffer.from([0, 255, 255, 255]))), chunk('IEND', Buffer.alloc(0))])
}
