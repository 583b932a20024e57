import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openPage, press, renderQuestion, see, turnOnCamera, type Running } from '../support/browser'
import { closeDemo, launchSeeded, openDemo } from '../support/demo'
import { Downloads } from '../support/downloads'
import { decodeErrors, pictureTimes, probe, soundOf, toldGaps } from '../support/media'
import { filesIn, rows } from '../support/stored'

/**
 * The camera in the real interface, with simulated ones that may fail on purpose; its files are read by ffprobe and
 * ffmpeg.
 */
interface Stored {
  id: string
  doc: {
    durationMs: number
    clip?: string
    camera?: { width: number; height: number; gaps: { from: number; to: number }[] }
  }
}
let app: Running
let browser: Browser & { profile: string }
let page: Page & { faults: string[] }
const folder = mkdtempSync(join(tmpdir(), 'orthograph-camera-'))
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
const taking = () =>
  page.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))

beforeAll(async () => {
  ;({ app, browser, page } = await openDemo())
})
afterAll(async () => {
  await closeDemo(app, browser)
  rmSync(folder, { recursive: true, force: true })
})

async function solve(question: number, microphone = 'sim:clicks') {
  await page.evaluate(
    m =>
      localStorage.setItem('orthograph-settings', JSON.stringify({ microphone: m, countdown: 0, sampleOffered: true })),
    microphone,
  )
  await page.goto(`${app.origin}/folio/balloon-day/solve?q=question-${question}`)
  await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
}
const switchOn = (camera: string) => turnOnCamera(page, camera)
async function stroke(from: [number, number], to: [number, number]) {
  const f = (await (await page.$('[data-part=frame]'))!.boundingBox())!
  await page.mouse.move(f.x + f.width * from[0], f.y + f.height * from[1])
  await page.mouse.down()
  await page.mouse.move(f.x + f.width * to[0], f.y + f.height * to[1], { steps: 25 })
  await page.mouse.up()
}
const corner = () => page.$eval('[data-part=portrait]', e => (e as HTMLElement).dataset.corner)
async function stop() {
  await page.keyboard.press('s')
  await page.waitForSelector('[data-part=proof-board]')
  return (await rows<Stored>(page, 'takes')).find(t => t.id === newest())!
}
let seen: string[] = []
let last = ''
const newest = () => last
async function remember() {
  seen = (await rows<Stored>(page, 'takes')).map(t => t.id)
}
async function findNew() {
  last = (await rows<Stored>(page, 'takes')).map(t => t.id).find(id => !seen.includes(id))!
}

/** Mean grey of a piece of every picture, 0…255, with the pictures' times in seconds. */
function greys(file: string, crop: string): { t: number; grey: number }[] {
  const raw = execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-vf',
    `crop=${crop},scale=1:1:flags=area,format=gray`,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-',
  ])
  return pictureTimes(file).map((t, i) => ({ t, grey: raw[i]! }))
}

describe('the camera', () => {
  it('is off until it is turned on, says so plainly, and is off again after the next start', async () => {
    await solve(6)
    expect(await page.$('[data-part=camera-sign]')).toBeNull()
    await switchOn('a drawn figure')
    await see(page, 'Camera on')
    await page.reload()
    await page.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
    expect(await page.$('[data-part=camera-sign]')).toBeNull()
    await switchOn('refused by the browser')
    await see(page, 'not allowed to use the camera')
    expect(await page.$('[data-part=camera-sign]')).toBeNull()
  })
  it('is recorded as a track of its own, on the clock of the take; its picture gives way to the ink', async () => {
    await solve(6)
    await remember()
    await switchOn('a drawn figure')
    await page.waitForSelector('[data-part=portrait]')
    await page.keyboard.press('r')
    await taking()
    expect(await page.$eval('[data-part=camera-sign]', e => getComputedStyle(e).opacity)).toBe('1')
    await wait(2200)
    expect(await corner()).toBe('bottom-right')
    await stroke([0.6, 0.75], [0.95, 0.8])
    await page.waitForFunction(
      () => document.querySelector<HTMLElement>('[data-part=portrait]')!.dataset.corner === 'top-right',
    )
    await page.keyboard.press('p')
    await wait(300)
    await page.keyboard.press('p')
    await wait(3000)
    await findNew()
    const take = await stop()
    expect(take.doc.camera).toMatchObject({ width: 640, height: 360 })
    expect(await rows(page, 'pictures')).toEqual([])
    const files = { camera: join(folder, 'camera.webm'), sound: join(folder, 'sound.flac') }
    writeFileSync(
      files.camera,
      (await filesIn<{ takeId: string }>(page, 'cameras', 'blob')).find(f => f.takeId === take.id)!.bytes,
    )
    writeFileSync(
      files.sound,
      (await filesIn<{ takeId: string }>(page, 'sounds', 'blob')).find(f => f.takeId === take.id)!.bytes,
    )
    toldGaps(files.camera, take.doc)
    const { streams } = probe(files.camera)
    expect(streams.map(s => [s.codec_name, s.width, s.height])).toEqual([['vp8', 640, 360]])
    expect(decodeErrors(files.camera)).toBe('')
    // The figure's shirt flashes with each click: both lie at the same time of the take, before the pause and after it.
    const pictures = greys(files.camera, '80:40:280:310')
    expect(pictures.length).toBeGreaterThan((take.doc.durationMs / 1000) * 3)
    const flashes = pictures.filter((p, i) => i > 0 && p.grey > 190 && pictures[i - 1]!.grey < 190).map(p => p.t)
    const pcm = soundOf(files.sound)
    const clicks: number[] = []
    for (let i = 0; i < pcm.length; i++)
      if (Math.abs(pcm[i]!) > 12_000 && i / 48_000 - (clicks.at(-1) ?? -1) > 0.5) clicks.push(i / 48_000)
    expect(clicks.length).toBeGreaterThan(2)
    expect(flashes.length).toBeGreaterThan(1)
    // A picture comes every 42 ms, and the coder may leave one out.
    const [pause] = (await rows<{ takeId: string; entries: { type: string; t: number }[] }>(page, 'journal'))
      .filter(j => j.takeId === take.id)
      .flatMap(j => j.entries)
      .filter(e => e.type === 'pause')
    // A busy machine may show one light late; a track that lies wrongly shows every one late, on either side of the pause.
    const off = (f: number) => Math.min(...clicks.map(c => Math.abs(c - f)))
    // Where the take went on, the light of a click in the pause may still be on.
    const [before, after] = [
      flashes.filter(f => f < pause!.t / 1000 - 0.3),
      flashes.filter(f => f > pause!.t / 1000 + 0.3),
    ]
    for (const side of [before, after])
      expect(Math.min(...side.map(off)), JSON.stringify({ flashes, clicks })).toBeLessThan(0.1)
  })
  it('is seen in Proof and in the video where it stood, and not where it was hidden', async () => {
    await page.waitForSelector('[data-part=portrait-player]')
    await press(page, 'Your picture is shown')
    await page.waitForFunction(() => !document.querySelector('[data-part=portrait-player]'))
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.waitForSelector('[data-part=portrait-player]')
    const downloads = await Downloads.into(browser, folder)
    await renderQuestion(page, app.origin, 'Cold at eight kilometres')
    const video = await downloads.after(() => press(page, 'Video', '[data-part=video]'))
    expect(decodeErrors(video)).toBe('')
    // The middle of each of the two places: a face there is darker than paper.
    const size = 0.28 * 720,
      margin = 0.03 * 720
    const spot = (top: boolean) =>
      `40:40:${Math.round(1280 - margin - size / 2 - 20)}:${Math.round((top ? margin + size / 2 : 720 - margin - size / 2) - 20)}`
    const below = greys(video, spot(false)),
      above = greys(video, spot(true))
    expect(below[3]!.grey).toBeLessThan(215)
    expect(above[3]!.grey).toBeGreaterThan(235)
    expect(below.at(-1)!.grey).toBeGreaterThan(225)
    expect(above.at(-1)!.grey).toBeLessThan(215)
    // It moves while nobody writes.
    expect(below.length / below.at(-1)!.t).toBeGreaterThan(3)
  })
  it('that is pulled out is told within two seconds, stops nothing, and can be turned on again', async () => {
    await solve(5)
    await remember()
    await switchOn('pulled out after 2 seconds')
    await page.keyboard.press('r')
    await taking()
    await page.waitForSelector('[data-part=camera-warning][data-fault=camera-lost]', { timeout: 6500 })
    await taking()
    await wait(1600)
    await press(page, 'Turn it on')
    await page.waitForFunction(() => !document.querySelector('[data-part=camera-warning]'))
    await wait(800)
    await findNew()
    const { doc } = await stop()
    expect(doc.camera!.gaps.some(g => g.to - g.from > 300)).toBe(true)
  })
  it('that is dark is told, and the take goes on without it', async () => {
    await solve(5)
    await switchOn('the lid is closed')
    await page.keyboard.press('r')
    await taking()
    await page.waitForSelector('[data-part=camera-warning][data-fault=camera-dark]', { timeout: 8000 })
    await taking()
    await press(page, 'Go on without')
    await page.waitForFunction(
      () => !document.querySelector('[data-part=camera-warning]') && !document.querySelector('[data-part=camera-sign]'),
    )
    await stop()
  })
})

describe('clips of the teacher', () => {
  it('open a question’s video as a chapter with captions, and can be taken out', async () => {
    await solve(3, 'sim:voice')
    await press(page, 'Clips')
    await press(page, 'Turn the camera on', '[data-part=clips]')
    await see(page, 'Camera on')
    await press(page, 'Record the clip')
    await page.waitForSelector('[data-part=clip-taking]')
    await wait(1500)
    await press(page, 'Stop the clip')
    await see(page, 'Record it anew')
    await page.type('[data-part=clips] textarea', 'Half the pressure, at last.')
    await page.keyboard.press('Tab')
    const clip = (await rows<Stored>(page, 'takes')).find(t => t.doc.clip === 'opening')!
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.querySelector('[data-part=clips]'))
    const downloads = await Downloads.into(browser, folder)
    await renderQuestion(page, app.origin, 'Half the pressure')
    const video = await downloads.after(() =>
      page.evaluate(() => {
        const row = [...document.querySelectorAll('[data-part=video]')].find(v =>
          v.querySelector<HTMLInputElement>('[data-part=question-title]')?.value.includes('Half'),
        )!
        const button = [...row.querySelectorAll('button')].find(b => b.textContent?.includes('Video'))!
        button.click()
      }),
    )
    const found = probe(video)
    expect(found.chapters[0]!.tags.title).toBe('Opening')
    expect(Math.abs(Number(found.chapters[1]!.start_time) * 1000 - clip.doc.durationMs)).toBeLessThanOrEqual(1)
    expect(decodeErrors(video)).toBe('')
    // The clip fills the picture with its wall; the page after it is white.
    const corner = greys(video, '60:60:1200:60')
    const ends = clip.doc.durationMs / 1000
    expect(Math.max(...corner.filter(p => p.t < ends - 0.1).map(p => p.grey))).toBeLessThan(236)
    expect(Math.min(...corner.filter(p => p.t > ends + 0.3).map(p => p.grey))).toBeGreaterThan(238)
    const [publication] = (
      await rows<{ doc: { questionId: string; captions: { from: number; text: string }[] } }>(page, 'publications')
    ).filter(p => p.doc.questionId === 'question-3')
    expect(publication!.doc.captions[0]).toMatchObject({ from: 0, text: expect.stringContaining('Half') as string })
    // The question's own words come when they are spoken, soon after the clip, and none of them in it.
    const [, next] = publication!.doc.captions
    expect(next!.from).toBeGreaterThanOrEqual(clip.doc.durationMs)
    expect(next!.from).toBeLessThan(clip.doc.durationMs + 2500)
    await solve(3)
    await press(page, 'Clips')
    await press(page, 'Take it out')
    await see(page, 'Record the clip')
    expect(page.faults).toEqual([])
  })
})

describe('devices of a browser', () => {
  let other: Browser & { profile: string }
  beforeAll(async () => {
    const voice = join(folder, 'voice.wav')
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-i',
      join(import.meta.dirname, '../../demo/voice/still-to-climb.ogg'),
      '-ar',
      '48000',
      '-ac',
      '1',
      voice,
    ])
    other = await launchSeeded('all', { fakeMicrophone: voice })
    const view = await openPage(other, app.origin)
    await view.goto(app.origin)
    await view.evaluate(() =>
      localStorage.setItem('orthograph-settings', JSON.stringify({ countdown: 0, sampleOffered: true })),
    )
    await view.close()
  })
  afterAll(async () => {
    await other?.close()
    if (other) rmSync(other.profile, { recursive: true, force: true, maxRetries: 5 })
  })

  it.each([
    ['hands over captured pieces', ''],
    ['does not: the worklet and a playing element take their place', 'delete globalThis.MediaStreamTrackProcessor'],
  ])('that %s are recorded, sound and picture; what is missing is told', async (_, before) => {
    const known = new Set<string>()
    const view = await openPage(other, app.origin)
    await view.evaluateOnNewDocument(before)
    await view.goto(`${app.origin}/folio/balloon-day/solve?q=question-6`)
    await view.waitForSelector('[data-part=solve-board] canvas[data-page=shown]')
    for (const { id } of await rows<Stored>(view, 'takes')) known.add(id)
    await see(view, 'Fake Default Audio Input')
    await turnOnCamera(view, 'fake_device_0')
    await view.waitForSelector('[data-part=camera-sign]')
    await view.keyboard.press('r')
    await view.waitForFunction(() => document.querySelector('[data-part=taking]')?.textContent?.includes('Taking'))
    // A busy machine may be late with the first pictures.
    for (let n = 0; n < 100 && !(await rows(view, 'pictures')).length; n++) await wait(100)
    await wait(2200)
    await view.keyboard.press('s')
    await view.waitForSelector('[data-part=proof-board]')
    const take = (
      await rows<Stored & { doc: { gaps: { from: number; to: number }[]; microphone: string } }>(view, 'takes')
    ).find(t => !known.has(t.id))
    expect(take!.doc.microphone).toBe('Fake Default Audio Input')
    const file = join(folder, 'device')
    writeFileSync(
      `${file}.webm`,
      (await filesIn<{ takeId: string }>(view, 'cameras', 'blob')).find(f => f.takeId === take!.id)!.bytes,
    )
    writeFileSync(
      `${file}.flac`,
      (await filesIn<{ takeId: string }>(view, 'sounds', 'blob')).find(f => f.takeId === take!.id)!.bytes,
    )
    toldGaps(`${file}.webm`, take!.doc)
    const times = pictureTimes(`${file}.webm`)
    expect(times.length).toBeGreaterThan((take!.doc.durationMs / 1000 - times[0]!) * 3)
    const pcm = soundOf(`${file}.flac`)
    expect(pcm.some(v => Math.abs(v) > 3000)).toBe(true)
    for (const { from, to } of take!.doc.gaps)
      expect(
        pcm.slice(Math.ceil(from * 48), Math.floor(to * 48)).every(v => v === 0),
        `gap at ${from} ms`,
      ).toBe(true)
    expect(view.faults).toEqual([])
    await view.close()
  })
})
