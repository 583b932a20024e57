import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makePapers, type Truth } from '../../bench/papers/make'
import { score } from '../../bench/papers/score'
import { findQuestions, type PageText } from '../../core/questions'
import { asJson, pageTexts } from '../../scripts/pdfText'

/**
 * The finder against papers that other programs typeset (Chromium and groff here; the bench adds more), with the truth
 * beside them.
 * Seeds are fixed, and chosen for having every dress of number, marks and options among them.
 */
const SEEDS = [2, 4, 8, 10, 12, 14, 16, 20, 24, 26, 28, 32, 36, 38, 40, 44, 46, 50, 56, 60, 62, 64, 70, 76]
const folder = mkdtempSync(join(tmpdir(), 'orthograph-papers-'))
let truths: Truth[]
const texts = new Map<string, PageText[]>()

beforeAll(async () => {
  truths = await makePapers(folder, SEEDS, ['chromium', 'groff'])
  for (const { file } of truths) texts.set(file, await pageTexts(file))
}, 240_000)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('questions of typeset papers', () => {
  it('are found with their parts, marks and options, and hardly anything else is', () => {
    const total = { truth: 0, found: 0, said: 0, parts: [0, 0], marks: [0, 0], options: [0, 0] }
    for (const { file, paper } of truths) {
      const s = score(paper, asJson(file, findQuestions(texts.get(file)!)))
      total.truth += s.truth
      total.found += s.found
      total.said += s.said
      for (const k of ['parts', 'marks', 'options'] as const) {
        total[k][0]! += s[k][0]
        total[k][1]! += s[k][1]
      }
    }
    expect(total.truth).toBeGreaterThan(150)
    expect(total.found / total.truth).toBeGreaterThanOrEqual(0.95)
    expect((total.said - total.found) / total.said).toBeLessThanOrEqual(0.05)
    for (const k of ['parts', 'marks', 'options'] as const)
      expect(total[k][0]! / total[k][1]!, k).toBeGreaterThanOrEqual(0.9)
  })

  it('lie where poppler says that their numbers stand', () => {
    let checked = 0
    for (const { file, paper } of truths.filter(t => /^(1\.|Q1|1\))$/.test(t.paper.numbers)).slice(0, 5)) {
      const html = execFileSync('pdftotext', ['-bbox', file, '-']).toString()
      const pages = html
        .split('<page ')
        .slice(1)
        .map(p =>
          [...p.matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([^<]*)</g)].map(m => ({
            x: Number(m[1]),
            y: Number(m[2]),
            text: m[5]!,
          })),
        )
      const signs = new Map(paper.sections.flatMap(s => s.questions).map(q => [q.label, q.sign]))
      for (const q of findQuestions(texts.get(file)!).questions) {
        const { page, box } = q.places[0]!
        const word = pages[page]!.find(
          w => w.text === signs.get(q.label) && Math.abs(w.x - box.x - 4) < 3 && w.y > box.y - 3 && w.y < box.y + 14,
        )
        expect(word, `${q.label} of ${file}`).toBeDefined()
        checked++
      }
    }
    expect(checked).toBeGreaterThan(15)
  })

  it('words stand where poppler says, to half a point', () => {
    let checked = 0
    for (const { file } of truths.filter(t => t.maker === 'groff')) {
      const html = execFileSync('pdftotext', ['-bbox', '-f', '1', '-l', '1', file, '-']).toString()
      const words = [...html.matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([^<]*)</g)].map(
        m => ({ x: Number(m[1]), text: m[5]!, bottom: Number(m[4]) }),
      )
      for (const p of texts.get(file)![0]!.pieces.filter(p => /^[A-Za-z]{4}[a-z]* /.test(p.text))) {
        expect(
          words.some(
            w => w.text === p.text.split(' ')[0] && Math.abs(w.x - p.x) < 0.5 && Math.abs(w.bottom - p.y) < p.size,
          ),
          p.text,
        ).toBe(true)
        checked++
      }
    }
    expect(checked).toBeGreaterThan(20)
  })
})
