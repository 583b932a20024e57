import { existsSync, mkdirSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, CDPSession } from 'puppeteer-core'

/** Catches what the application hands to the browser's downloads. */
export class Downloads {
  private readonly done: { path: string | null }[] = []
  private waiting: (() => void) | null = null

  private constructor(session: CDPSession, folder: string) {
    const names = new Map<string, string>()
    session.on('Browser.downloadWillBegin', e => void names.set(e.guid, e.suggestedFilename))
    session.on('Browser.downloadProgress', e => {
      if (e.state === 'inProgress' || !names.has(e.guid)) return
      const path = join(folder, names.get(e.guid)!)
      names.delete(e.guid)
      if (existsSync(join(folder, e.guid))) renameSync(join(folder, e.guid), path)
      this.done.push({ path: e.state === 'canceled' ? null : path })
      this.waiting?.()
    })
  }

  static async into(browser: Browser, folder: string): Promise<Downloads> {
    mkdirSync(folder, { recursive: true })
    const session = await browser.target().createCDPSession()
    await session.send('Browser.setDownloadBehavior', {
      behavior: 'allowAndName',
      downloadPath: folder,
      eventsEnabled: true,
    })
    return new Downloads(session, folder)
  }

  /**
   * Does something that leads to a download, and waits for it.
   * @returns its path, under the name the application gave it
   */
  async after(act: () => Promise<unknown>, timeoutMs = 60_000): Promise<string> {
    this.done.length = 0
    await act()
    return this.next(timeoutMs)
  }

  /** Waits for the next download. @returns its path */
  async next(timeoutMs = 60_000): Promise<string> {
    if (!this.done.length)
      await new Promise<void>((resolve, reject) => {
        const timer = setTimeout(() => reject(new Error('no download came')), timeoutMs)
        this.waiting = () => {
          clearTimeout(timer)
          this.waiting = null
          resolve()
        }
      })
    const { path } = this.done.shift()!
    if (path === null) throw new Error('the download was cancelled')
    return path
  }
}
