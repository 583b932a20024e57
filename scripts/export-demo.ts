/**
 * Does, with nobody at the screen, what the Publish screen does for the sample folio:
 * `npm run export:demo -- --out DIR [--container mp4|webm] [--pictures on-change|steady] [--width 1280|1920]`.
 * Leaves in DIR a video for each question, the whole, WebVTT chapters and captions, the student page (zip, and unpacked
 * in
 * DIR/site/) and the folio file. Ends with an error when anything fails.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import type { Browser } from 'puppeteer-core'
import { openArchive } from '../core/folio/archive'
import { launch, openPage, press, see, startApp } from '../tests/support/browser'
import { Downloads } from '../tests/support/downloads'

export interface ExportOptions {
  out: string
  container?: 'mp4' | 'webm'
  mode?: 'on-change' | 'steady'
  width?: number
  /** What is not made, by its words on the Publish screen; everything is when left out. */ without?: readonly string[]
  log?: (line: string) => void
}

/**
 * Exports the sample folio in a browser of its own.
 * @returns the paths of all files that were made, relative to `out`
 */
export async function exportDemo(options: ExportOptions): Promise<string[]> {
  const app = await startApp()
  const browser = await launch()
  try {
    const page = await openPage(browser, app.origin)
    await page.goto(app.origin)
    await page.waitForSelector('[data-part=folio]', { timeout: 30_000 })
    return await exportFolio(page, browser, app.origin, options)
  } finally {
    await browser.close()
    rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
    app.stop()
  }
}

/**
 * Exports Balloon Day as it stands on the shelf of a browser.
 * @returns the paths of all files that were made, relative to `out`
 */
export async function exportFolio(
  page: Awaited<ReturnType<typeof openPage>>,
  browser: Browser,
  origin: string,
  { out, container = 'mp4', mode = 'on-change', width = 1280, without = [], log = () => {} }: ExportOptions,
): Promise<string[]> {
  const folder = resolve(out)
  mkdirSync(folder, { recursive: true })
  const made: string[] = []
  await page.evaluate(
    (choice: string) => localStorage.setItem('orthograph-settings', choice),
    JSON.stringify({ container, mode, width, sampleOffered: true }),
  )
  const downloads = await Downloads.into(browser, folder)
  const keep = async (act: () => Promise<unknown>) => {
    const path = await downloads.after(act)
    made.push(path.slice(folder.length + 1))
    log(made[made.length - 1]!)
    return path
  }
  await page.goto(`${origin}/folio/balloon-day/publish`)
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
    timeout: 600_000,
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
    // The browser asks before it takes more than ten downloads from one visit; a new visit begins to count anew.
    if (i % 3 === 0) await page.reload()
    await page.waitForSelector(row)
    for (const button of ['Video', 'Chapters', 'Captions']) await keep(() => press(page, button, row))
  }
  await page.reload()
  const zip = await keep(() => press(page, 'Student page as a zip'))
  await unpack(zip, join(folder, 'site'), made)
  await keep(() => press(page, 'Save as a file'))
  await see(page, 'everything stored')
  if (page.faults.length) throw new Error(page.faults.join('; '))
  return made
}

async function unpack(zip: string, into: string, made: string[]) {
  rmSync(into, { recursive: true, force: true })
  const archive = await openArchive(new Blob([new Uint8Array(readFileSync(zip))]), zip)
  for (const name of archive.names) {
    const path = join(into, name)
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(path, new Uint8Array(await (await archive.blob(name, '')).arrayBuffer()))
    made.push(join('site', name))
  }
}

if (process.argv[1]?.endsWith('export-demo.ts')) {
  const { values } = parseArgs({
    options: {
      out: { type: 'string' },
      container: { type: 'string' },
      pictures: { type: 'string' },
      width: { type: 'string' },
    },
  })
  if (!values.out) {
    console.error('Say where the files should go: npm run export:demo -- --out DIR')
    process.exit(2)
  }
  const made = await exportDemo({
    out: values.out,
    container: values.container === 'webm' ? 'webm' : 'mp4',
    mode: values.pictures === 'steady' ? 'steady' : 'on-change',
    width: values.width === '1920' ? 1920 : 1280,
    log: console.log,
  }).catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
  console.log(`${made.length} files in ${values.out}`)
}
