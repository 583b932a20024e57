import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { editionOf } from '../../core/edition'
import { BoardIndex } from '../../core/recording'
import { boxOfThing } from '../../core/things'
import { Cut } from '../../core/cut'
import { LESSONS } from '../../demo/lessons'
import { makeDemoFolio } from '../../demo/make'
import { simulateTake } from '../../demo/take'
import { makeWorksheet, PLACES, SHEET } from '../../demo/worksheet'

const dir = mkdtempSync(join(tmpdir(), 'orthograph-demo-'))
const pdf = join(dir, 'sheet.pdf')
writeFileSync(pdf, await makeWorksheet())
const demo = await makeDemoFolio()
const durations = JSON.parse(
  readFileSync(join(import.meta.dirname, '../../demo/voice/durations.json'), 'utf8'),
) as Record<string, number[]>
afterAll(() => rmSync(dir, { recursive: true, force: true }))

describe('the sample worksheet', () => {
  it('has two pages of A4 and can be read by poppler', () => {
    const info = execFileSync('pdfinfo', [pdf], { encoding: 'utf8' })
    expect(info).toMatch(/Pages:\s+2/)
    expect(info).toMatch(/Page size:\s+595\.28 x 841\.89/)
    const text = execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' })
    for (const words of ['30 204 m', '318 m in every minute', 'B 5.5 km', '4x - 18 = 2x + 30', '24.0 N', '6.5 °C'])
      expect(text.replace(/ +/g, ' ')).toContain(words)
  })
  it('has its questions inside the page, apart from each other', () => {
    for (const [i, a] of PLACES.entries()) {
      expect(a.box.x + a.box.w).toBeLessThan(SHEET.width)
      expect(a.box.y + a.box.h).toBeLessThan(SHEET.height - 20)
      for (const b of PLACES.slice(i + 1)) if (a.page === b.page) expect(a.box.y + a.box.h).toBeLessThanOrEqual(b.box.y)
    }
  })
  it('has right answers: what the hand writes is what the numbers say', () => {
    expect(30_204 - 18_657).toBe(11_547)
    expect(318 * 46).toBe(14_628)
    expect(4 * 24 - 18).toBe(2 * 24 + 30)
    expect((24 - 1.8 * 9.81) / 1.8).toBeCloseTo(3.52, 2)
    const written = LESSONS.flatMap(l =>
      l.steps.flatMap(s =>
        s.beats.flatMap(b => (b.write ?? []).map(m => ('text' in m ? m.text : 'line' in m ? m.line : ''))),
      ),
    )
    for (const words of ['11 547 m', '14 628 m', 'B', '@4(x = 24) "  litres"']) expect(written).toContain(words)
  })
  it('uses the published air: half of sea-level pressure lies between 5 and 6 km (US Standard Atmosphere 1976)', () => {
    // The formula of the lower layer, checked against its table: 898.76 hPa at 1 km, 540.48 hPa at 5 km, geometric
    // height.
    const pressure = (z: number) => {
      const h = (6356.766 * z) / (6356.766 + z)
      return 1013.25 * (1 - (6.5 * h) / 288.15) ** 5.255877
    }
    expect(pressure(1)).toBeCloseTo(898.76, 1)
    expect(pressure(5)).toBeCloseTo(540.48, 1)
    expect(pressure(5.5)).toBeLessThan(1013.25 / 2)
    expect(pressure(5.4)).toBeGreaterThan(1013.25 / 2)
  })
})

describe('the sample takes', () => {
  it('say a sentence only when the one before is over', async () => {
    for (const lesson of LESSONS) {
      const take = await simulateTake(lesson, durations[lesson.name]!, PLACES[lesson.place]!.box)
      take.sentences.forEach((s, i) => {
        if (i) expect(s.at).toBeGreaterThanOrEqual(take.sentences[i - 1]!.at + durations[lesson.name]![i - 1]!)
      })
      expect(take.durationMs).toBeGreaterThan(take.sentences.at(-1)!.at + durations[lesson.name]!.at(-1)!)
    }
  })
  it('are as long as the voice that ships with them', () => {
    for (const lesson of LESSONS) {
      const seconds = Number(
        execFileSync(
          'ffprobe',
          [
            '-v',
            'error',
            '-show_entries',
            'format=duration',
            '-of',
            'csv=p=0',
            join(import.meta.dirname, `../../demo/voice/${lesson.name}.ogg`),
          ],
          { encoding: 'utf8' },
        ),
      )
      const take = demo.takes.find(t => t.take.id === `take-${PLACES[lesson.place]!.number}`)!.take
      expect(Math.abs(seconds * 1000 - take.durationMs)).toBeLessThan(40)
    }
  })
  it('keep their ink inside the frame, each stroke after the one before', () => {
    for (const { take, events } of demo.takes) {
      const { box } = take.frame
      let last = 0
      for (const e of events) {
        expect(e.t).toBeGreaterThanOrEqual(last)
        last = e.t
        const points = e.type === 'stroke' ? e.points : e.type === 'write' ? e.strokes.flatMap(s => s.points) : []
        for (let i = 0; i < points.length; i += 4) {
          expect(points[i]!).toBeGreaterThan(box.x)
          expect(points[i]!).toBeLessThan(box.x + box.w)
          expect(points[i + 1]!).toBeGreaterThan(box.y)
          expect(points[i + 1]!).toBeLessThan(box.y + box.h)
        }
        if (e.type !== 'place') continue
        const thing = boxOfThing(e.thing)
        expect(thing.y + thing.h, `${take.id} ${e.thing.kind}`).toBeLessThan(box.y + box.h)
        expect(thing.x + thing.w, `${take.id} ${e.thing.kind}`).toBeLessThan(box.x + box.w)
      }
    }
  })
  it('hold a slip that is struck out: its digit is on the board of the take, not of the cut', () => {
    const { take, events } = demo.takes[0]!
    const ledger = demo.folio.questions[0]!.ledger!
    const cut = new Cut(ledger, take.durationMs)
    const struck = ledger.steps.filter(s => s.struck)
    expect(struck.map(s => s.title)).toEqual(['Two thousands left'])
    const all = new BoardIndex(events).last().strokes.length
    const edition = editionOf({ take, events, ledger, pages: demo.folio.pages })
    const kept = edition.boardAt(edition.duration).strokes.length
    expect(kept).toBeLessThan(all)
    expect(cut.duration).toBeLessThan(take.durationMs)
  })
})
