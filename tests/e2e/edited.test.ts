import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest'
import { putTightened, strikeStretch, tighten, tightened, tightnessOf } from '../../core/cut'
import { editionOf, type Edition } from '../../core/edition'
import { archiveBlob, newId, type Ledger } from '../../core/folio'
import { seededRandom } from '../../core/ink'
import { folioFiles, type WholeFolio } from '../../core/publish'
import { Peaks, speechOf } from '../../core/sound'
import { endOf, inkOf } from '../../core/recording'
import { openPage, press, putOnShelf, startApp, launch, see, type Running } from '../support/browser'
import { seededFolio } from '../support/demo'
import { Downloads } from '../support/downloads'
import { likeness, pictureTimes, probe, lag, soundOf, thinned } from '../support/media'

/** Edited questions, as students get them: their videos by ffmpeg, beside the edition, the takes and Proof's stills. */
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
let whole: WholeFolio
let at: string
const folder = mkdtempSync(join(tmpdir(), 'orthograph-edited-'))
const editions = new Map<string, Edition>()
const videos = new Map<string, string>()
const STRONG = tightnessOf(1)

/** Where somebody speaks, as Proof finds it. */
function speechIn(pcm: Int16Array) {
  const peaks = new Peaks(48_000)
  peaks.push(pcm)
  return speechOf(peaks.finish())
}

async function soundOfTake(takeId: string): Promise<Int16Array> {
  const { sound } = whole.takes.find(t => t.take.id === takeId)!
  const file = join(folder, `${takeId}.ogg`)
  writeFileSync(file, new Uint8Array(await sound!.arrayBuffer()))
  return soundOf(file)
}

/** Edits of every kind, by chance; the first question is tightened as strongly as can be. */
function edited(ledger: Ledger, durationMs: number, random: () => number): void {
  for (let n = 0; n < 2; n++) {
    const from = Math.floor(random() * (durationMs - 1500))
    strikeStretch(ledger, { from, to: from + 300 + Math.floor(random() * 900) }, random() < 0.6)
  }
  const fast = Math.floor(random() * (durationMs - 1000))
  ledger.paces = [{ id: newId(), from: fast, to: fast + 900, speed: 2.5 }]
  if (random() < 0.5 && ledger.steps.length > 2) ledger.order = [...ledger.steps.map(s => s.id)].reverse()
}

beforeAll(async () => {
  whole = await seededFolio('all')
  const random = seededRandom(1411)
  for (const [i, question] of whole.folio.questions.entries()) {
    const held = whole.takes.find(t => t.take.id === question.ledger?.takeId)
    if (!held || !question.ledger) continue
    const { durationMs } = held.take
    if (i === 0) {
      const speech = speechIn(await soundOfTake(held.take.id))
      const proposals = tighten(question.ledger, durationMs, speech, held.events, STRONG)
      const { strikes, paces } = tightened(proposals, STRONG.writing)
      putTightened(question.ledger, strikes, paces)
    } else edited(question.ledger, durationMs, random)
    editions.set(question.id, editionOf({ ...held, ledger: question.ledger, pages: whole.folio.pages }))
  }
  app = await startApp({ demo: false, port: inject('seed').port })
  browser = await launch()
  page = await openPage(browser, app.origin)
  await page.goto(app.origin)
  await putOnShelf(page, await archiveBlob(folioFiles(whole)))
  at = `${app.origin}/folio/${whole.folio.id}`
  await page.evaluate(() => localStorage.setItem('orthograph-settings', JSON.stringify({ sampleOffered: true })))
  await page.goto(`${at}/publish`)
  await see(page, 'Videos to render')
  await press(page, 'The whole folio')
  await press(page, `Render ${editions.size} videos`)
  await page.waitForFunction(
    (n: number) => document.querySelectorAll('[data-part=video]').length === n,
    { timeout: 120_000 },
    editions.size,
  )
  const downloads = await Downloads.into(browser, folder)
  for (const [k, id] of [...editions.keys()].entries())
    videos.set(id, await downloads.after(() => press(page, 'Video', `[data-part=video]:nth-of-type(${k + 1})`)))
})
afterAll(async () => {
  await browser?.close()
  if (browser) rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
  app?.stop()
  rmSync(folder, { recursive: true, force: true })
})

describe('the video of an edited question', () => {
  it('is as long as its edition, to the picture', () => {
    for (const [id, video] of videos) {
      const times = pictureTimes(video)
      const frame = Math.max(
        ...times
          .slice(1)
          .map((t, i) => t - times[i]!)
          .filter(d => d < 0.2),
      )
      const { duration } = editions.get(id)!
      expect(Math.abs(Number(probe(video).format.duration) * 1000 - duration), id).toBeLessThan(1000 * frame + 25)
    }
  })

  it('has the takes’ sound at every stretch that is kept, at most 5 ms off (correlation)', async () => {
    let stretches = 0
    for (const [id, video] of videos) {
      const heard = thinned(soundOf(video))
      for (const { at, ms, take, from } of editions.get(id)!.soundPlan()) {
        if (from === null || ms < 500) continue
        const own = thinned(await soundOfTake(take))
        const off = lag(own, from + 60, heard, at + 60, Math.min(ms - 120, 900))
        if (off === null) continue
        stretches++
        expect(Math.abs(off), `${id} at ${at} ms`).toBeLessThanOrEqual(5)
      }
    }
    expect(stretches).toBeGreaterThan(8)
  })

  it('has no longer pause than was asked for where it was tightened (silencedetect)', () => {
    const [id, video] = [...videos][0]!
    const edition = editions.get(id)!
    const { stderr } = spawnSync('ffmpeg', ['-i', video, '-af', 'silencedetect=noise=-42dB:d=0.5', '-f', 'null', '-'], {
      encoding: 'utf8',
    })
    const begins = [...stderr.matchAll(/silence_start: ([\d.-]+)/g)].map(m => Number(m[1]) * 1000)
    const ends = [...stderr.matchAll(/silence_end: ([\d.]+)/g)].map(m => Number(m[1]) * 1000)
    const busy = edition.events
      .filter(e => inkOf(e).length || e.type === 'look' || e.type === 'trail' || e.type === 'spot')
      .map(e => ({ from: e.t - 100, to: endOf(e) + 700 }))
    for (const [i, from] of begins.entries()) {
      const to = ends[i] ?? edition.duration
      // What is written in silence goes by faster, and is no pause; where the student is to try, nothing is said.
      const quiet = Array.from({ length: Math.ceil((to - from) / 20) }, (_, k) => from + k * 20).filter(
        t => !busy.some(b => t >= b.from && t < b.to) && !edition.turns().some(u => t >= u.t - 1500 && t < u.to + 1500),
      )
      expect(quiet.length * 20, `from ${from} to ${to}`).toBeLessThanOrEqual(STRONG.pauseFrom + 250)
    }
  })

  it('shows the scene of its edition at five moments by chance, of every question', async () => {
    const random = seededRandom(20)
    const downloads = await Downloads.into(browser, folder)
    for (const [id, video] of videos) {
      await page.goto(`${at}/proof?q=${id}`)
      await page.waitForSelector('[data-part=proof-time]')
      const edition = editions.get(id)!
      const times = pictureTimes(video)
      const now = () => page.$eval('[data-part=proof-time]', e => Number((e as HTMLElement).dataset.ms))
      // While the student is to try, the video says so.
      const asks = (t: number) => edition.turns().some(u => t > u.t - 200 && t < u.to + 200)
      const moments: number[] = []
      while (moments.length < 5) {
        const t = random() * (edition.duration - 300)
        if (!asks(t)) moments.push(t)
      }
      // One after another, so that the way from one to the next is short.
      for (const wanted of moments.sort((a, b) => a - b)) {
        let t = await now()
        while (Math.abs(wanted - t) > 1000) {
          await page.keyboard.press(wanted > t ? 'ArrowRight' : 'ArrowLeft')
          t = await now()
        }
        await page.keyboard.down('Shift')
        for (let k = 0; k < Math.abs(wanted - t) / 100; k++)
          await page.keyboard.press(wanted > t ? 'ArrowRight' : 'ArrowLeft')
        await page.keyboard.up('Shift')
        const still = await downloads.after(() => page.keyboard.press('i'))
        const moment = Number(/(\d+)ms\.png$/.exec(still)![1]) / 1000
        // What is shown then is the last picture until then.
        const at = times.findLast(t => t <= moment + 0.034)! - 0.001
        expect(likeness({ video, at }, still), `${id} at ${moment} s`).toBeGreaterThan(26)
      }
    }
    expect(page.faults).toEqual([])
  })
})
