/**
 * Does, with nobody at the screen, what the Publish screen does, for any folio files, one after another:
 *
 *     npm run export -- FILE.folio … --out DIR [--videos mp4|webm|none] [--pictures on-change|steady] [--width 1280|1920]
 *       [--page yes|no] [--captions yes|no] [--feed yes|no] [--handout whole|each|none] [--ink all|first|none]
 *       [--colour colour|grey] [--cartridge yes|no] [--link ADDRESS]
 *
 * Leaves in DIR/NAME, for each folio: videos with WebVTT chapters and captions, captions as WebVTT and SRT, the student
 * page (zip, and unpacked in site/; where something is released later also as it is then, in site-whole/), its feed,
 * handouts, the course package, the calendar where there are dates, and the folio file. ADDRESS is where the page will
 * stand, for what leads to it: the feed, the codes of handouts, the course package. Without one the feed leads into site/.
 * DIR/report.json tells what was made and verified of each, and what failed; the exit code is 1 when anything did.
 * `npm run export:demo` does it for the sample.
 */
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { basename, join, resolve } from 'node:path'
import type { Browser, ElementHandle } from 'puppeteer-core'
import { parseText } from 'media-captions'
import { writeSrt } from '../core/captions'
import { fileName } from '../core/publish/names'
import { launch, openPage, press, see, startApp, still } from '../tests/support/browser'
import { Downloads } from '../tests/support/downloads'
import { unpackZip } from '../tests/support/staticSite'
import { exportArguments, type ExportOptions } from './exportArguments'

/** What became of one folio: what was made of it, what was verified before it was handed over, or why it failed. */
export interface ExportReport {
  folio: string
  made: string[]
  verified: unknown
  failed: string | null
}

/** Exports the sample folio in a browser of its own. @returns the paths of all files, relative to `out` */
export async function exportDemo(options: ExportOptions): Promise<string[]> {
  return withApp(true, async (page, browser, origin) => {
    await page.waitForSelector('[data-part=folio]', { timeout: 30_000 })
    return (await exportFolio(page, browser, origin, { container: 'mp4', page: true, ...options })).made
  })
}

type AppPage = Awaited<ReturnType<typeof openPage>>
async function withApp<T>(
  demo: boolean,
  work: (page: AppPage, browser: Browser, origin: string) => Promise<T>,
): Promise<T> {
  const app = await startApp({ demo })
  const browser = await launch()
  try {
    const page = await openPage(browser, app.origin)
    await answerAlone(page)
    await page.goto(app.origin)
    return await work(page, browser, app.origin)
  } finally {
    await browser.close()
    rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
    app.stop()
  }
}

/** Exports folio files, each in a browser of its own; one that fails does not keep the others back. */
export async function exportFiles(files: readonly string[], options: ExportOptions): Promise<ExportReport[]> {
  const reports: ExportReport[] = []
  const used = new Set<string>()
  for (const file of files) {
    let name = fileName(basename(file).replace(/\.folio$/i, ''), 'folio')
    while (used.has(name)) name += '-2'
    used.add(name)
    const out = join(options.out, name)
    options.log?.(`${file} → ${out}`)
    try {
      const { made, verified } = await withApp(false, async (page, browser, origin) =>
        exportFolio(page, browser, origin, { ...options, out, id: await broughtIn(page, file) }),
      )
      reports.push({ folio: file, made: made.map(path => join(name, path)), verified, failed: null })
    } catch (error) {
      reports.push({
        folio: file,
        made: [],
        verified: null,
        failed: error instanceof Error ? error.message : String(error),
      })
    }
  }
  return reports
}

/** Puts a folio file on the shelf. @returns its id there @throws Error in the application's words */
async function broughtIn(page: AppPage, file: string): Promise<string> {
  if (!existsSync(file)) throw new Error(`${file} is not there`)
  const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>
  await input.uploadFile(resolve(file))
  const found = await page.waitForFunction(
    () => {
      const trouble = document.querySelector<HTMLElement>('[data-trouble]')?.innerText
      const link =
        document.querySelector('[data-part=folio] canvas') &&
        document.querySelector('[data-part=folio] a[href*="/folio/"]')
      const id = link?.getAttribute('href')?.match(/folio\/([^/]+)/)?.[1]
      return trouble ? { trouble } : id ? { id } : undefined
    },
    { timeout: 300_000, polling: 100 },
  )
  const { trouble, id } = (await found.jsonValue()) as { trouble?: string; id?: string }
  if (!id) throw new Error(trouble)
  return id
}

/** Exports a folio as it stands on the shelf of a browser. @returns the paths of all files, relative to `out` */
export async function exportFolio(page: AppPage, browser: Browser, origin: string, options: ExportOptions) {
  const { out, id = 'balloon-day', container, handout, cartridge, log = () => {} } = options
  const { page: site = true, captions = true, feed = true } = options
  const folder = resolve(out)
  mkdirSync(folder, { recursive: true })
  const made: string[] = []
  await choose(page, id, options)
  const downloads = await Downloads.into(browser, folder)
  const keep = async (act?: () => Promise<unknown>) => {
    const failing = troubleOn(page)
    // Who won is all that matters; the page may be gone by the time the other ends.
    failing.catch(() => {})
    const path = await Promise.race([act ? downloads.after(act, 600_000) : downloads.next(600_000), failing])
    made.push(path.slice(folder.length + 1))
    log(made[made.length - 1]!)
    return path
  }
  await page.goto(`${origin}/folio/${id}/publish`)
  await see(page, 'Videos to render')
  if (await page.evaluate(() => document.body.innerText.includes('No question has been recorded yet')))
    throw new Error('No question of it is recorded: there is nothing to export')
  if (container) await videos(page, { ...options, container }, keep)
  // The browser asks before it takes more than ten downloads from one visit; a new visit begins to count anew.
  await page.reload()
  await see(page, 'Videos to render')
  const verified = site || captions || feed ? await pageFiles(page, folder, options, keep, made) : null
  if (handout) await handouts(page, handout, keep)
  if (cartridge) {
    await press(page, 'Other files')
    await keep(() => press(page, 'Course package'))
  }
  await keep(() => press(page, 'Save as a file'))
  await see(page, 'everything stored')
  const troubles = await page.$$eval('[data-trouble]', found => found.map(e => (e as HTMLElement).innerText))
  if (page.faults.length || troubles.length) throw new Error([...troubles, ...page.faults].join('; '))
  return { made, verified }
}

/** Sets what she would have chosen on the screen. */
async function choose(page: AppPage, id: string, options: ExportOptions) {
  const { container = 'mp4', link, mode = 'on-change', width = 1280, ink = 'all', colour = 'colour' } = options
  const chosen = { container, mode, width, handoutInk: ink, handoutColour: colour, sampleOffered: true }
  await page.evaluate(
    (choice: string) => localStorage.setItem('orthograph-settings', choice),
    JSON.stringify({ ...chosen, addresses: link ? { [id]: link } : {} }),
  )
}

/** The student page and what is taken from it: captions, feed, calendar. @returns what was verified of it */
async function pageFiles(
  page: AppPage,
  folder: string,
  { page: site = true, captions = true, feed = true, link, log }: ExportOptions,
  keep: Keep,
  made: string[],
): Promise<unknown> {
  const unpacked = join(folder, 'site')
  const zip = await keep(() => press(page, 'Student page as a zip'))
  // Where something is released later, the page as it is then follows.
  const later = zip.endsWith('-now.zip') ? await keep() : null
  const found = await page.waitForSelector('[data-part=check-report]')
  const report = await found!.evaluate(e => (e as HTMLElement).dataset.report)
  for (const old of [unpacked, `${unpacked}-whole`]) rmSync(old, { recursive: true, force: true })
  const names = [...(await unpackZip(zip, unpacked)).keys()]
  if (later && site)
    for (const name of (await unpackZip(later, `${unpacked}-whole`)).keys()) made.push(join('site-whole', name))
  if (captions) made.push(...(await captionFiles(folder)))
  if (names.includes('dates.ics')) {
    copyFileSync(join(unpacked, 'dates.ics'), join(folder, 'dates.ics'))
    made.push('dates.ics')
  }
  if (feed && (link || site)) {
    const xml = readFileSync(join(unpacked, 'feed.xml'), 'utf8')
    writeFileSync(join(folder, 'feed.xml'), link ? xml : leadingInto('site/', xml))
    made.push('feed.xml')
  } else if (feed) log?.('No feed: it leads to the page, which is neither made nor has an address (--link)')
  if (site) made.push(...names.map(name => join('site', name)))
  else {
    rmSync(unpacked, { recursive: true })
    for (const file of [zip, ...(later ? [later] : [])]) {
      rmSync(file)
      made.splice(made.indexOf(basename(file)), 1)
    }
  }
  return JSON.parse(report ?? 'null')
}

/** A feed whose addresses are beside it, for a place outside the folder of its page. */
const leadingInto = (folder: string, xml: string) => xml.replace(/(<link>| url="| href=")(?!https?:)/g, `$1${folder}`)

/** The captions of the page's questions beside it, as WebVTT and as SRT. @returns their names */
async function captionFiles(folder: string): Promise<string[]> {
  const made: string[] = []
  for (const name of readdirSync(join(folder, 'site/questions')).filter(n => n.endsWith('.captions.vtt'))) {
    const from = join(folder, 'site/questions', name)
    const { cues } = await parseText(readFileSync(from, 'utf8'), { type: 'vtt', strict: true })
    const srt = name.replace(/vtt$/, 'srt')
    const own = cues.map(c => ({ from: c.startTime * 1000, to: c.endTime * 1000, text: c.text }))
    writeFileSync(join(folder, srt), writeSrt(own))
    copyFileSync(from, join(folder, name))
    made.push(srt, name)
  }
  return made
}

/** What the application says went wrong, when it does: there is nothing to wait for then. @throws Error always */
async function troubleOn(page: AppPage): Promise<never> {
  const trouble = await page.waitForSelector('[data-trouble]', { timeout: 600_000 })
  throw new Error(await trouble!.evaluate(e => (e as HTMLElement).innerText))
}

/** Keeps the file that an act, or the one before, leads to. */
type Keep = (act?: () => Promise<unknown>) => Promise<string>
/** Nobody is at the screen: what is asked for is made, and a folio's file is as whole as the folio. */
async function answerAlone(page: AppPage) {
  await page.evaluateOnNewDocument(() => {
    setInterval(() => {
      const all = [...document.querySelectorAll('button')]
      all.find(b => ['Make it all the same', 'Save it with the link'].includes(b.textContent!.trim()))?.click()
    }, 100)
  })
}
async function handouts(page: AppPage, which: 'whole' | 'each', keep: Keep) {
  const names = which === 'whole' ? ['The whole sheet'] : await recordedNames(page)
  for (const [i, name] of names.entries()) {
    if (i % 8 === 7) {
      await page.reload()
      await see(page, 'Videos to render')
    }
    await page.keyboard.press('h')
    await page.waitForSelector('[role=dialog] [role=combobox]')
    await still(page)
    await page.click('[role=dialog] [role=combobox]')
    await press(page, name, '[role=listbox]')
    await still(page)
    await keep(() => press(page, 'Make the PDF'))
    await page.waitForFunction(() => !document.querySelector('[role=dialog]'))
  }
}
const recordedNames = (page: AppPage) =>
  page.$$eval('[data-part=to-render] label', all => all.map(e => e.textContent!.trim()))

/** Renders all videos, and keeps them with their chapters and captions. */
async function videos(page: AppPage, { container = 'mp4', without = [] }: ExportOptions, keep: Keep) {
  const all = (await (
    await page.waitForFunction(() => Number(/Render (\d+) videos/.exec(document.body.innerText)?.[1] ?? 0), {
      timeout: 20_000,
    })
  ).jsonValue()) as number
  for (const words of without) await press(page, words)
  const wanted = all - without.length
  await press(page, `Render ${wanted} video`)
  await page.waitForSelector('[data-part=render-tasks]')
  await page.waitForFunction(() => !document.querySelector('[data-part=render-tasks]'), {
    timeout: 3_600_000,
    polling: 250,
  })
  const kind = container === 'mp4' ? 'MP4' : 'WebM'
  const rows = await page.$$eval(
    '[data-part=video]',
    (found, name) => found.flatMap((row, i) => (row.textContent!.includes(name) ? [i + 1] : [])),
    kind,
  )
  const troubles = await page.$$eval('[data-trouble]', found => found.map(e => (e as HTMLElement).innerText))
  if (rows.length !== wanted || troubles.length)
    throw new Error(`rendering failed: ${rows.length} videos; ${troubles.join('; ')}`)
  for (const [i, at] of rows.entries()) {
    const row = `[data-part=video]:nth-child(${at})`
    if (i % 3 === 0) await page.reload()
    await page.waitForSelector(row)
    for (const button of ['Video', 'Chapters', 'Captions']) await keep(() => press(page, button, row))
  }
}

async function main() {
  let asked: ReturnType<typeof exportArguments>
  try {
    asked = exportArguments(process.argv.slice(2))
  } catch (error) {
    console.error((error as Error).message)
    process.exit(2)
  }
  const { files, demo, options } = asked
  const log = console.log
  if (demo) {
    const made = await exportDemo({ ...options, log })
    console.log(`${made.length} files in ${options.out}`)
    return
  }
  const reports = await exportFiles(files, { ...options, log })
  mkdirSync(options.out, { recursive: true })
  writeFileSync(join(options.out, 'report.json'), JSON.stringify(reports, null, 2))
  for (const { folio, failed } of reports) if (failed) console.error(`${folio}: ${failed}`)
  console.log(
    `${reports.filter(r => !r.failed).length} of ${reports.length} folios exported; ${join(options.out, 'report.json')}`,
  )
  if (reports.some(r => r.failed)) process.exitCode = 1
}

if (process.argv[1]?.endsWith('export.ts'))
  main().catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
