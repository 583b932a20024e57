import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateSync } from 'node:zlib'
import { afterAll, describe, expect, it } from 'vitest'
import { worksheetPdf } from '../../core/publish/worksheet'
import { blankText, keyPages, type PageText } from '../../core/questions'
import { makeWorksheet } from '../../demo/worksheet'

/** The worksheet that students get, read by poppler and qpdf. */
const dir = mkdtempSync(join(tmpdir(), 'orthograph-sheet-'))
afterAll(() => rmSync(dir, { recursive: true }))
const word = (text: string, x: number, y: number, size = 12) => ({ text, x, y, w: size * 0.5 * text.length, size })
const grey = (width: number, height: number) => ({
  kind: 'packed' as const,
  data: deflateSync(Buffer.alloc(width * height * 3, 200)),
  width,
  height,
})

describe('the worksheet as students get it', () => {
  const file = join(dir, 'sheet.pdf')
  const letters = Array.from({ length: 600 }, (_, i) => String.fromCodePoint(0x4e00 + i)).join('')
  it('is a sound PDF of the pages’ pictures, without metadata', async () => {
    writeFileSync(
      file,
      await worksheetPdf([
        {
          width: 595.28,
          height: 841.89,
          picture: grey(60, 85),
          words: [
            word('Höhe', 40, 60),
            word('√2', 90, 60),
            word('≈', 120, 60),
            word('1013', 40, 300),
            word('💥x', 40, 500),
            word('', 1, 1),
            { ...word('gone', 1, 1), w: 0 },
          ],
        },
        { width: 300, height: 200, picture: grey(30, 20), words: [word(letters, 0, 100, 1)] },
      ]),
    )
    execFileSync('qpdf', ['--check', file])
    const info = execFileSync('pdfinfo', [file], { encoding: 'utf8' })
    expect(info).toMatch(/Pages:\s+2/)
    expect(info).not.toMatch(/Title|Author|Creator|Producer|CreationDate|ModDate/)
    expect(execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' }).match(/^ +\d+ +\d+ image/gm)).toHaveLength(
      2,
    )
  })
  it('has its words where they are printed, in any script, to be searched and copied', () => {
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
    for (const part of [/Höhe\s+√2\s+≈/, /1013/, /💥x/]) expect(text).toMatch(part)
    expect(text.replace(/\s/g, '')).toContain(letters)
    const [left, top] = /<word xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>1013</
      .exec(execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' }))!
      .slice(1)
      .map(Number)
    expect(left).toBeCloseTo(40, 0)
    expect(Math.abs(300 - 12 - top!)).toBeLessThan(6)
  })
  it('pages that hold the paper’s own answers are known, also where questions stand above them', () => {
    const piece = (text: string, y: number, size = 11, bold = false) => ({
      text,
      x: 50,
      y,
      w: text.length * size * 0.5,
      size,
      bold,
    })
    const page = (...pieces: PageText['pieces']): PageText => ({ ...blankText(595, 842), pieces })
    const questions = page(
      piece('1. How high does the balloon rise in an hour of climbing?', 80),
      piece('2. How cold is it at that height above the ground?', 120),
    )
    const both = page(
      piece('3. What is the pressure of the air up there at noon?', 80),
      piece('Answers', 400, 16, true),
      piece('1. 19 km', 430),
      piece('2. -56 °C', 450),
    )
    expect([...keyPages([questions, both])]).toEqual([1])
    expect([...keyPages([questions])]).toEqual([])
  })
})

describe('the sample’s own worksheet', () => {
  it('brings its fonts along, so that it looks the same on every machine', async () => {
    const file = join(dir, 'own.pdf')
    writeFileSync(file, await makeWorksheet())
    const fonts = execFileSync('pdffonts', [file], { encoding: 'utf8' }).trim().split('\n').slice(2)
    expect(fonts.length).toBe(2)
    for (const font of fonts) expect(font).toMatch(/STIXTwoText.*\syes\s+\w+\s+yes\s/)
    expect(readFileSync(file).length).toBeLessThan(120_000)
  })
})
