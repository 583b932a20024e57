import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { freePort, launch, openPage, putOnShelf, startApp } from './browser'
import { makeShortLesson, THREE } from './shortLesson'

/**
 * Made once for all end-to-end files: folio files, and browsers' profiles with them on the shelf of the application on
 * this port.
 */
export interface Seed {
  dir: string
  port: number
}
declare module 'vitest' {
  export interface ProvidedContext {
    seed: Seed
  }
}

/** The sample with short takes, with all of its recorded questions or three of them. */
export const SHELVES = { all: undefined, three: THREE } as const
export const fileOf = ({ dir }: Seed, shelf: keyof typeof SHELVES) => join(dir, `${shelf}.folio`)
export const profileOf = ({ dir }: Seed, shelf: keyof typeof SHELVES) => join(dir, shelf)

/** What a browser's profile has beside what it stores; it is large, and made anew. */
const PASSING = /component_crx_cache|GrShaderCache|GraphiteDawnCache|ShaderCache|Safe Browsing|Singleton/

export default async function setUp(project: TestProject) {
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-seed-'))
  const seed = { dir, port: await freePort() }
  const app = await startApp({ demo: false, port: seed.port })
  for (const shelf of ['all', 'three'] as const) {
    const { file } = await makeShortLesson(SHELVES[shelf])
    writeFileSync(fileOf(seed, shelf), new Uint8Array(await file.arrayBuffer()))
    const browser = await launch()
    const page = await openPage(browser, app.origin)
    await page.goto(app.origin)
    await putOnShelf(page, file)
    await page.evaluate(() => localStorage.setItem('orthograph-settings', JSON.stringify({ sampleOffered: true })))
    await browser.close()
    cpSync(browser.profile, profileOf(seed, shelf), { recursive: true, filter: path => !PASSING.test(path) })
    rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
  }
  app.stop()
  project.provide('seed', seed)
  return () => rmSync(dir, { recursive: true, force: true })
}
