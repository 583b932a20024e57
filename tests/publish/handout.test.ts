import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import jsQR from 'jsqr'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PEN_ROLES } from '../../core/folio'
import { outlineStroke } from '../../core/ink'
import { handoutPdf, plainPages, type Handout } from '../../core/publish/handout'
import { printed } from '../../core/publish/handoutInk'
import type { Sheet } from '../../core/publish/worksheet'
import type { Drawing } from '../../core/scene'
import { makeWorksheet } from '../../demo/worksheet'

/** Handouts, as poppler and qpdf read them: text, pages, bookmarks, codes, and where ink lies. */
const dir = mkdtempSync(join(tmpdir(), 'orthograph-handout-'))
afterAll(() => rmSync(dir, { recursive: true, force: true }))
const resolve = createRequire(import.meta.url).resolve
const bytesOf = (path: string) => new Uint8Array(readFileSync(path))
const face = (weight: number) =>
  bytesOf(resolve(`@fontsource/atkinson-hyperlegible/files/atkinson-hyperlegible-latin-${weight}-normal.woff`))
const fonts = {
  plain: face(400),
  bold: face(700),
  wide: bytesOf(resolve('pdfjs-dist/standard_fonts/LiberationSans-Regular.ttf')),
}
const W = 595.28
const H = 841.89
/** A thick line across, as the scene draws it. */
const ink = (role: (typeof PEN_ROLES)[number], y: number): Drawing => ({
  kind: 'ink',
  key: role,
  done: true,
  outlines: outlineStroke({
    id: role,
    role,
    tool: 'pen',
    points: Array.from({ length: 60 }, (_, i) => [100 + 5 * i, y + 6 * Math.sin(i / 3), 0.5, i * 10]).flat(),
  }),
})
const LINK = 'http://127.0.0.1:3001/0123456789abcdef/#q1'
let source: Uint8Array
let words: Sheet['words']
const handout = (extra: Partial<Handout> = {}): Handout => ({
  title: 'Balloon Day',
  facts: ['Science club', 'Δ ≈ 4 π'],
  pages: [
    {
      width: W,
      height: H + 60,
      // Room of 60 points was put in at 300.
      under: {
        kind: 'pdf',
        file: 0,
        index: 0,
        strips: [
          { from: 0, h: 300, y: 0 },
          { from: 300, h: H - 300, y: 360 },
        ],
        words,
      },
      drawings: PEN_ROLES.map((role, i) => ink(role, 400 + 60 * i)),
    },
    { width: W, height: H, under: { kind: 'pdf', file: 0, index: 1, strips: [{ from: 0, h: H, y: 0 }] }, drawings: [] },
  ],
  places: [
    { title: '1 — Still to climb', page: 0, y: 120, parts: [{ title: 'Part a', page: 0, y: 160 }] },
    { title: '4 — Δp and π', page: 1, y: 80, parts: [] },
  ],
  questions: [
    {
      name: '1 — Still to climb',
      steps: [{ time: '0:00', title: 'What is asked: x² − 4 ≥ 0, Δ, 你' }],
      link: LINK,
      answers: [{ part: '', answer: '11 547 m' }],
    },
  ],
  files: [{ bytes: source, password: '' }],
  pictures: new Map(),
  colour: 'colour',
  fonts,
  ...extra,
})
const file = (name: string) => join(dir, name)
async function written(name: string, extra: Partial<Handout> = {}) {
  const bytes = await handoutPdf(handout(extra))
  writeFileSync(file(name), bytes)
  return bytes.length
}
/** The words of a file's first page, as poppler finds them. */
const wordsIn = (name: string) =>
  [
    ...execFileSync('pdftotext', ['-bbox', '-f', '1', '-l', '1', name, '-'], { encoding: 'utf8' }).matchAll(
      /xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([^<]+)</g,
    ),
  ].map(m => ({
    text: m[5]!.replace(/&apos;/g, "'").replace(/&amp;/g, '&'),
    x: Number(m[1]),
    y: Number(m[2]),
    w: Number(m[3]) - Number(m[1]),
    bottom: Number(m[4]),
  }))
/** A page as poppler draws it: grey samples of so many dots an inch. */
function drawn(name: string, page: number, dpi = 72) {
  execFileSync('pdftoppm', [
    '-gray',
    '-r',
    String(dpi),
    '-f',
    String(page),
    '-l',
    String(page),
    '-singlefile',
    file(name),
    file('page'),
  ])
  const data = readFileSync(file('page.pgm'))
  const head = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(data.subarray(0, 40).toString('latin1'))!
  return { width: Number(head[1]), height: Number(head[2]), at: data.subarray(head[0].length) }
}
beforeAll(async () => {
  source = await makeWorksheet()
  writeFileSync(file('source.pdf'), source)
  words = wordsIn(file('source.pdf')).map(({ text, x, y, w, bottom }) => {
    const size = (bottom - y) / 1.2
    return { text, x, w, y: y + 0.9 * size + (y > 300 ? 60 : 0), size }
  })
  await written('a.pdf')
}, 60_000)

describe('a handout', () => {
  it('is sound, and has the original’s text, to be selected, on as many pages', () => {
    execFileSync('qpdf', ['--check', file('a.pdf')])
    const text = execFileSync('pdftotext', ['-layout', file('a.pdf'), '-'], { encoding: 'utf8' })
    for (const words of [
      'The balloon is planned to burst at 30 204 m',
      'Half',
      '11 547 m',
      'What is asked: x² − 4 ≥ 0, Δ',
    ])
      expect(text.replace(/ +/g, ' ')).toContain(words === 'Half' ? 'half' : words)
    expect(execFileSync('pdfinfo', [file('a.pdf')], { encoding: 'utf8' })).toMatch(/Pages: +3/)
    // Vector throughout: no picture is in it.
    expect(
      execFileSync('pdfimages', ['-list', file('a.pdf')], { encoding: 'utf8' })
        .trim()
        .split('\n'),
    ).toHaveLength(2)
  })
  it('has the text below an added room lower by that room', () => {
    const sorted = (name: string) =>
      wordsIn(file(name)).sort((a, b) => a.text.localeCompare(b.text) || a.y - b.y || a.x - b.x)
    const [before, after] = [sorted('source.pdf'), sorted('a.pdf')]
    expect(after.length).toBe(before.length)
    for (const [i, { text, y }] of before.entries()) {
      expect(after[i]!.text).toBe(text)
      expect(Math.abs(after[i]!.y - (y > 300 ? y + 60 : y))).toBeLessThan(5)
    }
  })
  it('has a bookmark for each question and part, and for the lists', () => {
    const json = JSON.parse(
      execFileSync('qpdf', ['--json', '--json-key=outlines', file('a.pdf')], { encoding: 'utf8' }),
    ) as {
      outlines: { title: string; destpageposfrom1: number; kids: { title: string }[] }[]
    }
    expect(json.outlines.map(o => [o.title, o.destpageposfrom1, o.kids.map(k => k.title)])).toEqual([
      ['1 — Still to climb', 1, ['Part a']],
      ['4 — Δp and π', 2, []],
      ['Steps and answers', 3, ['1 — Still to climb']],
    ])
  })
  it('has a code that a reader reads', () => {
    const { width, height, at } = drawn('a.pdf', 3, 150)
    const rgba = new Uint8ClampedArray(4 * width * height)
    at.forEach((v, i) => rgba.set([v, v, v, 255], 4 * i))
    expect(jsQR(rgba, width, height)?.data).toBe(LINK)
  })
  it('has ink where the scene draws it', async () => {
    await written('bare.pdf', { pages: handout().pages.map(p => ({ ...p, drawings: [] })) })
    const [a, b] = [drawn('a.pdf', 1), drawn('bare.pdf', 1)]
    const rows = new Set<number>()
    a.at.forEach((v, i) => {
      if (Math.abs(v - b.at[i]!) > 12) rows.add(Math.floor(i / a.width))
    })
    PEN_ROLES.forEach((role, i) => {
      const y = 400 + 60 * i
      const own = [...rows].filter(r => Math.abs(r - y) < 30)
      expect(own.length, role).toBeGreaterThan(4)
      // A line that swings by 6 points, and its own width.
      expect(Math.min(...own), role).toBeGreaterThan(y - 18)
      expect(Math.max(...own), role).toBeLessThan(y + 18)
    })
  })
  it('printed without colours keeps roles apart by their lines, and bands pale', async () => {
    await written('grey.pdf', { colour: 'grey' })
    const { width, at } = drawn('grey.pdf', 1, 144)
    /** Of a role's line: how much of its way is dark, how dark, and how thick it is. */
    const seen = PEN_ROLES.map((_, i) => {
      let dark = 0,
        thick = 0,
        least = 255
      for (let x = 220; x < 780; x++) {
        let here = 0
        for (let y = 2 * (400 + 60 * i) - 24; y < 2 * (400 + 60 * i) + 24; y++) {
          const v = at[y * width + x]!
          least = Math.min(least, v)
          if (v < 225) here++
        }
        dark += here ? 1 : 0
        thick += here
      }
      return [Math.round(dark / 14), Math.round(thick / 560), Math.round(least / 25)].join()
    })
    expect(new Set(seen).size).toBe(PEN_ROLES.length)
    expect(printed('#ffcc00', 0.4, 'grey')[0]).toBeGreaterThanOrEqual(0.6)
    expect(printed('#ffcc00', 1, 'grey')[0]).toBeLessThanOrEqual(0.35)
    expect(printed('#1f3f80', 1, 'colour').map(v => Math.round(v * 255))).toEqual([31, 63, 128])
  })
  it('takes little more than the original', async () => {
    const bytes = await written('size.pdf', { questions: [], places: [] })
    expect(bytes).toBeLessThan(1.2 * source.length + 30_000)
  })
  it('knows which pages lie as they are stored', async () => {
    expect(await plainPages(source, '')).toEqual([true, true])
    execFileSync('qpdf', [file('source.pdf'), '--rotate=+90:2', '--', file('turned.pdf')])
    expect(await plainPages(bytesOf(file('turned.pdf')), '')).toEqual([true, false])
    execFileSync('qpdf', ['--encrypt', 'secret', 'owner', '256', '--', file('source.pdf'), file('locked.pdf')])
    expect(await plainPages(bytesOf(file('locked.pdf')), 'secret')).toEqual([true, true])
    await expect(plainPages(new Uint8Array(20), '')).rejects.toThrow()
  })
})
