import { existsSync, mkdirSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, CDPSession } from 'puppeteer-core'

/** Catches what the application hands to the browser's downloads. */
export class Downloads {
  private constructor(
    private readonly session: CDPSession,
    private readonly folder: string,
  ) {}

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
    const done = new Promise<string>((resolve, reject) => {
      const timer = setTimeout(() => reject(new Error('no download came')), timeoutMs)
      const names = new Map<string, string>()
      const began = (e: { guid: string; suggestedFilename: string }) => names.set(e.guid, e.suggestedFilename)
      const moved = (e: { guid: string; state: string }) => {
        if (e.state === 'inProgress') return
        clearTimeout(timer)
        this.session.off('Browser.downloadWillBegin', began)
        this.session.off('Browser.downloadProgress', moved)
        if (e.state === 'canceled') return reject(new Error('the download was cancelled'))
        const path = join(this.folder, names.get(e.guid) ?? e.guid)
        if (existsSync(join(this.folder, e.guid))) renameSync(join(this.folder, e.guid), path)
        resolve(path)
      }
      this.session.on('Browser.downloadWillBegin', began)
      this.session.on('Browser.downloadProgress', moved)
    })
    await act()
    return done
  }
}
