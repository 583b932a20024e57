import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { freePort, launch, openPage, putOnShelf, startApp } from './browser'
import { makeShortLesson, THREE } from './shortLesson'

/**
 * Where what end-to-end files share is made: folio files, and browsers' profiles with them on the shelf of the
 * application on this port.
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
const fileOf = ({ dir }: Seed, shelf: keyof typeof SHELVES) => join(dir, `${shelf}.folio`)

/** What a browser's profile has beside what it stores; it is large, and made anew. */
const PASSING = /component_crx_cache|GrShaderCache|GraphiteDawnCache|ShaderCache|Safe Browsing|Singleton/

/**
 * A folio file and a profile of a shelf, made when a file first asks for it: a run of one file, or of one lane, needs one
 * of them, and each takes a machine of two cores a quarter of a minute.
 */
export const seeded = async (seed: Seed, shelf: keyof typeof SHELVES): Promise<string> => {
  const file = fileOf(seed, shelf)
  if (!existsSync(file))
    writeFileSync(file, new Uint8Array(await (await makeShortLesson(SHELVES[shelf])).file.arrayBuffer()))
  return file
}
export async function seededProfile(seed: Seed, shelf: keyof typeof SHELVES): Promise<string> {
  const profile = join(seed.dir, shelf)
  if (existsSync(profile)) return profile
  const file = new Blob([new Uint8Array(readFileSync(await seeded(seed, shelf)))])
  const app = await startApp({ demo: false, port: seed.port })
  const browser = await launch()
  try {
    const page = await openPage(browser, app.origin)
    await page.goto(app.origin)
    await putOnShelf(page, file)
    await page.evaluate(() => localStorage.setItem('orthograph-settings', JSON.stringify({ sampleOffered: true })))
    await browser.close()
    cpSync(browser.profile, profile, { recursive: true, filter: path => !PASSING.test(path) })
  } finally {
    await browser.close()
    rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
    app.stop()
  }
  return profile
}

export default async function setUp(project: TestProject) {
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-seed-'))
  project.provide('seed', { dir, port: await freePort() })
  return () => rmSync(dir, { recursive: true, force: true })
}
