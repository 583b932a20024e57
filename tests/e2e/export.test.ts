import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { parseText } from 'media-captions'
import FeedReader from 'rss-parser'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Cut } from '../../core/cut'
import { archiveBlob, questionName, type ArchiveFile } from '../../core/folio'
import { folioFiles } from '../../core/publish'
import type { Browser, Page } from 'puppeteer-core'
import { exportFiles, exportFolio } from '../../scripts/export'
import { openPage, type Running } from '../support/browser'
import { closeDemo, openDemo, seededFolio } from '../support/demo'
import { Downloads } from '../support/downloads'
import { decodeErrors, frameAt, likeness, probe, soundOf } from '../support/media'

/**
 * Exported files against tools that nobody here wrote: ffprobe, ffmpeg, poppler, qpdf, an independent WebVTT reader.
 */
const root = mkdtempSync(join(tmpdir(), 'orthograph-export-'))
const out = { mp4: join(root, 'mp4'), webm: join(root, 'webm') }
const short = await seededFolio('three')
const recorded = short.folio.questions.filter(q => q.ledger)
const cutOf = (i: number) => new Cut(recorded[i]!.ledger!, short.takes[i]!.take.durationMs)
const bytesOf = async (files: ArchiveFile[]) => new Uint8Array(await (await archiveBlob(files)).arrayBuffer())
/** Where the page is said to stand. */
const LINK = 'https://a.example/b/'
const BASES = ['01-Still-to-climb', '02-Height-after-46-minutes', '04-Bottles-of-helium']
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo('three'))
  await exportFolio(page, browser, app.origin, { out: out.mp4, container: 'mp4', link: LINK })
  // The whole folio is joined in the same way in both: once is enough.
  await exportFolio(page, browser, app.origin, { out: out.webm, container: 'webm', without: ['The whole folio'] })
})
afterAll(async () => {
  await closeDemo(app, browser)
  rmSync(root, { recursive: true, force: true })
})

describe.each(['mp4', 'webm'] as const)('%s files', kind => {
  const videos = kind === 'mp4' ? [...BASES, 'Balloon-Day'] : BASES
  const expected = [...BASES, 'Balloon-Day'].map((_, i) =>
    i < BASES.length
      ? { duration: cutOf(i).duration, title: questionName(recorded[i]!), chapters: cutOf(i).chapters() }
      : {
          duration: recorded.reduce((s, _, k) => s + cutOf(k).duration, 0),
          title: 'Balloon Day',
          chapters: recorded.map((q, k) => ({
            t: recorded.slice(0, k).reduce((s, _, j) => s + cutOf(j).duration, 0),
            title: questionName(q),
          })),
        },
  )

  const madeFrom = (name: string) => expected[BASES.includes(name) ? BASES.indexOf(name) : BASES.length]!

  it.each(videos)('%s: ffprobe finds its length, streams, title and chapters', name => {
    const found = probe(join(out[kind], `${name}.${kind}`)),
      of = madeFrom(name)
    expect(Math.abs(Number(found.format.duration) * 1000 - of.duration)).toBeLessThanOrEqual(50)
    expect(found.format.tags?.title ?? found.format.tags?.['MOVIE/TITLE']).toBe(of.title)
    expect(found.streams.map(s => s.codec_name)).toEqual(kind === 'mp4' ? ['h264', 'aac'] : ['vp9', 'opus'])
    expect(found.streams[0]).toMatchObject({ width: 1280, height: 720 })
    expect(found.chapters.map(c => c.tags.title)).toEqual(of.chapters.map(c => c.title))
    found.chapters.forEach((c, k) =>
      expect(Math.abs(Number(c.start_time) * 1000 - of.chapters[k]!.t)).toBeLessThanOrEqual(1),
    )
    expect(Number(found.streams[0]!.nb_read_frames)).toBeGreaterThanOrEqual(of.duration / 1000)
  })

  it.each(videos)('%s: ffmpeg decodes every frame, and the sound is as long as the pictures', name => {
    const file = join(out[kind], `${name}.${kind}`)
    expect(decodeErrors(file)).toBe('')
    const pcm = soundOf(file)
    expect(Math.abs(pcm.length / 48 - madeFrom(name).duration)).toBeLessThanOrEqual(50)
  })

  it('the picture holds still in silence where the student is to try', () => {
    const [turn] = cutOf(1).turns()
    const file = join(out[kind], `${BASES[1]}.${kind}`)
    const pcm = soundOf(file)
    const loudest = (from: number, to: number) =>
      pcm.subarray(from * 48, to * 48).reduce((most, s) => Math.max(most, Math.abs(s)), 0)
    expect(loudest(turn!.t + 60, turn!.to - 60)).toBeLessThan(40)
    expect(loudest(turn!.to + 100, turn!.to + 3000)).toBeGreaterThan(2000)
    const [before, card, late] = [turn!.t - 100, turn!.t + 300, turn!.t + 2200].map((t, i) => {
      const png = join(root, `turn-${kind}-${i}.png`)
      frameAt(file, t / 1000, png)
      return png
    })
    expect(likeness(before!, card!)).toBeLessThan(26)
    // Only the seconds that are left change on the card.
    expect(likeness(card!, late!)).toBeGreaterThan(30)
  })
  it('the sound lies where it was recorded', () => {
    const source = join(root, `source-${kind}.ogg`)
    writeFileSync(
      source,
      new Uint8Array(readFileSync(join(import.meta.dirname, '../../demo/voice/bottles-of-helium.ogg'))),
    )
    expect(Math.abs(lag(soundOf(source), soundOf(join(out[kind], `${BASES[2]}.${kind}`))))).toBeLessThanOrEqual(25)
  })
})

/** How much later `b` is than `a`, ms, by the correlation of ten seconds of speech. */
function lag(a: Int16Array, b: Int16Array): number {
  const from = 48 * 2000
  let best = { lag: 0, sum: -Infinity }
  for (let shift = -48 * 60; shift <= 48 * 60; shift += 6) {
    let sum = 0
    for (let i = from; i < from + 48 * 10_000; i += 5) sum += a[i]! * b[i + shift]!
    if (sum > best.sum) best = { lag: shift / 48, sum }
  }
  return best.lag
}

describe('the video of the whole folio', () => {
  it('shows what the questions’ own videos show, from beginning to end', () => {
    const whole = join(out.mp4, 'Balloon-Day.mp4')
    let at = 0
    for (const [i, base] of BASES.entries()) {
      // ffmpeg takes the next picture that begins; one does at least every second.
      for (const t of i % 2 ? [cutOf(i).duration / 2000] : [0.5, cutOf(i).duration / 1000 - 1.3]) {
        const [own, there] = [
          [join(out.mp4, `${base}.mp4`), t],
          [whole, at + t],
        ].map(([file, s], k) => {
          const png = join(root, `joined-${k}.png`)
          frameAt(file as string, s as number, png)
          return png
        })
        expect(likeness(own!, there!), `${base} at ${t} s`).toBeGreaterThan(45)
      }
      at += cutOf(i).duration / 1000
    }
  })
})

describe('files beside the videos', () => {
  it('are read by an independent WebVTT reader', async () => {
    const files = readdirSync(out.mp4, { recursive: true, encoding: 'utf8' }).filter(f => f.endsWith('.vtt'))
    expect(files.length).toBe(4 * recorded.length + 2)
    for (const file of files) {
      const { cues, errors } = await parseText(readFileSync(join(out.mp4, file), 'utf8'), { type: 'vtt', strict: true })
      expect(errors).toEqual([])
      expect(cues.length).toBeGreaterThan(1)
    }
  })
  it('a reader of feeds finds the videos, with their sizes and chapters', async () => {
    const xml = readFileSync(join(out.mp4, 'feed.xml'), 'utf8')
    const { items, link } = await new FeedReader().parseString(xml)
    expect(link).toBe(LINK)
    expect(items.map(i => i.link)).toEqual(recorded.map(q => `${LINK}#q-${q.id}`))
    for (const { enclosure } of items) {
      const path = decodeURIComponent(enclosure!.url.slice(LINK.length))
      expect([enclosure!.type, Number(enclosure!.length)]).toEqual([
        'video/mp4',
        statSync(join(out.mp4, 'site', path)).size,
      ])
    }
    expect(xml.match(/<psc:chapter /g)).toHaveLength(recorded.reduce((n, _, i) => n + cutOf(i).chapters().length, 0))
    // Where the page has no address yet, it leads to the files beside it.
    const beside = await new FeedReader().parseString(readFileSync(join(out.webm, 'feed.xml'), 'utf8'))
    for (const { link: place, enclosure } of beside.items) {
      expect(existsSync(join(out.webm, place!.split('#')[0]!))).toBe(true)
      expect(statSync(join(out.webm, decodeURIComponent(enclosure!.url))).size).toBe(Number(enclosure!.length))
    }
  })
  it('the worksheet is whole: poppler reads its text, qpdf finds nothing wrong', () => {
    const pdf = join(out.mp4, 'site/worksheet/Balloon-Day.pdf')
    expect(execFileSync('pdftotext', [pdf, '-'], { encoding: 'utf8' })).toContain(
      'The balloon is planned to burst at 30 204 m',
    )
    expect(execFileSync('pdfinfo', [pdf], { encoding: 'utf8' })).toMatch(/Pages:\s+2/)
    execFileSync('qpdf', ['--check', pdf])
  })
})

describe('in a browser', () => {
  it('a frame of the video is the picture that the scene makes of that moment', async () => {
    const downloads = await Downloads.into(browser, join(root, 'stills'))
    await page.goto(`${app.origin}/folio/balloon-day/proof?q=question-1`)
    await page.waitForSelector('canvas[data-page=shown]')
    for (let i = 0; i < 4; i++) {
      await page.keyboard.press(i % 2 ? 'ArrowRight' : 'ArrowDown')
      const still = await downloads.after(() => page.keyboard.press('i'))
      const at = Number(/(\d+)ms\.png$/.exec(still)![1]) / 1000
      for (const kind of ['mp4', 'webm'] as const) {
        const frame = join(root, `frame-${kind}.png`)
        frameAt(join(out[kind], `${BASES[0]}.${kind}`), at + 0.034, frame)
        expect(likeness(still, frame), `${kind} at ${at} s`).toBeGreaterThan(30)
      }
    }
  })

  it.each(['mp4', 'webm'] as const)(
    'the student page works from a folder, with the videos beside it (%s)',
    async kind => {
      const page = await openPage(browser, 'file://')
      await page.goto(pathToFileURL(join(out[kind], 'site/index.html')).href)
      expect(await page.$eval('h1', h => h.textContent!.trim())).toBe('Balloon Day')
      expect(await page.$$eval('section.question', all => all.length)).toBe(recorded.length)
      await page.waitForSelector('#q1 .stage:not([hidden])')
      const links = await page.$$eval('a.download', all => all.map(a => (a as HTMLAnchorElement).href))
      expect(links.map(l => l.split('.').pop())).toEqual(recorded.map(() => kind))
      for (const link of links) expect(decodeErrors(decodeURIComponent(new URL(link).pathname))).toBe('')
      expect(page.faults).toEqual([])
      await page.close()
    },
  )
})

describe('folio files without anyone at the screen', () => {
  it('are exported one after another; one that cannot be read fails by itself, with the application’s words', async () => {
    const dir = join(root, 'files')
    const broken = join(root, 'broken.folio')
    writeFileSync(broken, 'no folio')
    // The last question is released later: there are two pages then.
    const dated = structuredClone(short.folio)
    dated.questions.findLast(q => q.ledger)!.release = { fullFrom: '2100-01-01T08:00:00.000Z' }
    const file = join(root, 'dated.folio')
    writeFileSync(file, await bytesOf(folioFiles({ ...short, folio: dated })))
    const options = { out: dir, page: true, handout: 'whole', cartridge: true } as const
    const reports = await exportFiles([file, broken, join(root, 'absent.folio')], options)
    const [first, second, third] = reports
    expect(first!.failed).toBeNull()
    expect(first!.verified).toMatchObject({ replays: 3, captions: 3, faults: [] })
    const kinds = first!.made.map(path => path.replace(/^.*?\.(?=[^/]*$)/, ''))
    for (const kind of ['zip', 'pdf', 'imscc', 'folio', 'captions.srt', 'captions.vtt', 'html'])
      expect(
        kinds.some(k => k.endsWith(kind)),
        kind,
      ).toBe(true)
    for (const path of first!.made) expect(existsSync(join(dir, path)), path).toBe(true)
    const srt = readFileSync(join(dir, first!.made.find(p => p.endsWith('.srt'))!), 'utf8')
    expect((await parseText(srt, { type: 'srt', strict: true })).cues.length).toBeGreaterThan(0)
    const closed = (site: string) =>
      readFileSync(join(dir, 'dated', site, 'index.html'), 'utf8').match(/class="closed"\s+id/g)
    expect([closed('site')?.length, closed('site-whole')]).toEqual([1, null])
    // Until then there is its place on the sheet, and nothing else of it.
    const videos = (site: string) =>
      readdirSync(join(dir, 'dated', site, 'questions')).filter(n => n.startsWith('04') && !n.includes('.asked.'))
    expect([videos('site').length, videos('site-whole').length > 0]).toEqual([0, true])
    expect(second!.failed).toContain('broken.folio')
    expect(third!.failed).toContain('is not there')
  })
})
