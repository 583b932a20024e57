/**
 * Does, with nobody at the screen, what the Publish screen does for the sample folio:
 * `npm run export:demo -- --out DIR [--container mp4|webm] [--pictures on-change|steady] [--width 1280|1920]`.
 * Leaves in DIR a video for each question, the whole, WebVTT chapters and captions, the student page (zip, and unpacked in
 * DIR/site/) and the folio file. Ends with an error when anything fails.
 */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { openArchive } from '../core/folio/archive'
import { launch, openPage, press, see, startApp } from '../tests/support/browser'
import { Downloads } from '../tests/support/downloads'

export interface ExportOptions { out: string, container?: 'mp4' | 'webm', mode?: 'on-change' | 'steady', width?: number, /** What is not made, by its words on the Publish screen; everything is when left out. */ without?: readonly string[], log?: (line: string) => void }

/** @returns the paths of all files that were made, relative to `out` */
export async function exportDemo({ out, container = 'mp4', mode = 'on-change', width = 1280, without = [], log = () => {} }: ExportOptions): Promise<string[]> {
  const folder = resolve(out)
  mkdirSync(folder, { recursive: true })
  const app = await startApp()
  const browser = await launch()
  const made: string[] = []
  try {
    const page = await openPage(browser, app.origin)
    await page.evaluateOnNewDocument((choice: string) => localStorage.setItem('orthograph-settings', choice), JSON.stringify({ container, mode, width }))
    await page.goto(app.origin)
    await page.waitForSelector('[data-part=folio]', { timeout: 30_000 })
    const downloads = await Downloads.into(browser, folder)
    const keep = async (act: () => Promise<unknown>) => {
      const path = await downloads.after(act)
      made.push(path.slice(folder.length + 1))
      log(made[made.length - 1]!)
      return path
    }
    await page.goto(`${app.origin}/folio/balloon-day/publish`)
    const wanted = 6 - without.length
    await see(page, 'Render 6 videos')
    for (const words of without) await press(page, words)
    await press(page, `Render ${wanted} videos`)
    await page.waitForSelector('[data-part=render-tasks]')
    await page.waitForFunction(() => !document.querySelector('[data-part=render-tasks]'), { timeout: 600_000, polling: 250 })
    const videos = (await page.$$('[data-part=video]')).length
    const troubles = await page.$$eval('[data-trouble]', all => all.map(e => (e as HTMLElement).innerText))
    if (videos !== wanted || troubles.length) throw new Error(`rendering failed: ${videos} videos; ${troubles.join('; ')}`)
    for (let i = 1; i <= videos; i++) {
      const row = `[data-part=video]:nth-child(${i})`
      // The browser asks before it takes more than ten downloads from one visit; a new visit begins to count anew.
      await page.reload()
      await page.waitForSelector(row)
      for (const button of ['Video', 'Chapters', 'Captions']) await keep(() => press(page, button, row))
    }
    const zip = await keep(() => press(page, 'Student page as a zip'))
    await unpack(zip, join(folder, 'site'), made)
    await keep(() => press(page, 'Save as a file'))
    await see(page, 'everything stored')
    if (page.faults.length) throw new Error(page.faults.join('; '))
    return made
  }
  finally {
    await browser.close()
    rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
    app.stop()
  }
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
  const { values } = parseArgs({ options: { out: { type: 'string' }, container: { type: 'string' }, pictures: { type: 'string' }, width: { type: 'string' } } })
  if (!values.out) {
    console.error('Say where the files should go: npm run export:demo -- --out DIR')
    process.exit(2)
  }
  const made = await exportDemo({
    out: values.out, container: values.container === 'webm' ? 'webm' : 'mp4', mode: values.pictures === 'steady' ? 'steady' : 'on-change',
    width: values.width === '1920' ? 1920 : 1280, log: console.log,
  }).catch((error: unknown) => {
    console.error(error)
    process.exit(1)
  })
  console.log(`${made.length} files in ${values.out}`)
}
