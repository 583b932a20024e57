import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser, Page } from 'puppeteer-core'
import { inject } from 'vitest'
import { readFolioFile, type WholeFolio } from '../../core/publish'
import { launch, openPage, startApp, type BrowserOptions, type Running } from './browser'
import { seeded, seededProfile, type SHELVES } from './seed'

type Shelf = keyof typeof SHELVES
export interface Opened {
  app: Running
  browser: Browser & { profile: string }
  page: Page & { faults: string[] }
}

/**
 * A browser of its own that has the sample on its shelf; it finds it in the application that {@link openDemo} started.
 */
export async function launchSeeded(shelf: Shelf, options: BrowserOptions = {}): Promise<Opened['browser']> {
  const profile = mkdtempSync(join(tmpdir(), 'orthograph-profile-'))
  cpSync(await seededProfile(inject('seed'), shelf), profile, { recursive: true })
  return launch({ ...options, profile })
}

/** The application in a browser of its own, with the sample on its shelf, its takes cut short. */
export async function openDemo(shelf: Shelf = 'all'): Promise<Opened> {
  // Before the application is started: the shelf is made in one on the same port.
  await seededProfile(inject('seed'), shelf)
  const app = await startApp({ demo: false, port: inject('seed').port })
  const browser = await launchSeeded(shelf)
  const page = await openPage(browser, app.origin)
  await page.goto(app.origin)
  await page.waitForSelector('[data-part=folio] canvas')
  return { app, browser, page }
}

/** What lies on a seeded shelf, read from its file. */
export async function seededFolio(shelf: Shelf): Promise<WholeFolio> {
  const file = await seeded(inject('seed'), shelf)
  return readFolioFile(new Blob([new Uint8Array(readFileSync(file))]), file)
}

/** Ends both, and removes what they left. */
export async function closeDemo(app: Running | undefined, browser: Opened['browser'] | undefined): Promise<void> {
  await browser?.close()
  if (browser) rmSync(browser.profile, { recursive: true, force: true, maxRetries: 5 })
  app?.stop()
}
