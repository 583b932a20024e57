import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core'

const root = join(new URL('.', import.meta.url).pathname, '../..')
/** The size that screens are designed for. */
export const VIEWPORT = { width: 1280, height: 800 }

/** Debian's Chromium, or whatever CHROMIUM names. */
export function chromiumPath(): string {
  const found = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(p => p && existsSync(p))
  if (!found) throw new Error('Chromium is missing: apt-get install chromium, or name it in CHROMIUM')
  return found
}

/**
 * Below the ports that the system hands out by itself (32768 and up, `ip_local_port_range`): one of those can be given
 * to any other server or connection between the moment it is found free and the moment it is listened on again.
 */
const PORTS = { from: 20_000, to: 32_000 }

/** A port that nothing listens on, and that stays free until the caller takes it. */
export async function freePort(): Promise<number> {
  const isFree = (port: number) =>
    new Promise<boolean>(resolve => {
      const server = createServer()
      server.once('error', () => resolve(false))
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)))
    })
  for (let tries = 0; tries < 100; tries++) {
    const port = PORTS.from + Math.floor(Math.random() * (PORTS.to - PORTS.from))
    if (await isFree(port)) return port
  }
  throw new Error(`No port is free between ${PORTS.from} and ${PORTS.to}`)
}

export interface Running {
  origin: string
  /** Without which nothing is published. */ publishingKey: string
  pid: number
  stop(): void
}

interface StartOptions {
  demo?: boolean
  /** A free one when left out. */
  port?: number
  env?: Record<string, string>
}

/** Starts the built application, with storage of its own. */
export async function startApp({ demo = true, port, env = {} }: StartOptions = {}): Promise<Running> {
  const entry = join(root, '.output/server/index.mjs')
  if (!existsSync(entry)) throw new Error('The application is not built: npm run build')
  port ??= await freePort()
  const cwd = mkdtempSync(join(tmpdir(), 'orthograph-'))
  const child: ChildProcess = spawn(process.execPath, [entry], {
    cwd,
    env: {
      ...process.env,
      PORT: String(port),
      CLASS_SITE_PORT: '0',
      HOST: '127.0.0.1',
      NUXT_PUBLIC_DEMO: String(demo),
      ...env,
    },
    stdio: 'ignore',
  })
  const origin = `http://127.0.0.1:${port}`
  // Whatever becomes of the test, its server does not outlive it.
  process.once('exit', () => child.kill())
  for (let i = 0; ; i++) {
    const answers = await fetch(origin).then(
      r => r.ok,
      () => false,
    )
    // What answers may be another server on the same port.
    if (i > 900 || child.exitCode !== null) {
      child.kill()
      throw new Error(`The application did not start on port ${port}`)
    }
    if (answers) break
    await new Promise(r => setTimeout(r, 100))
  }
  const publishingKey = readFileSync(join(cwd, '.data/publishing-key'), 'utf8').trim()
  return {
    origin,
    publishingKey,
    pid: child.pid!,
    stop() {
      child.kill()
      rmSync(cwd, { recursive: true, force: true })
    },
  }
}

export interface BrowserOptions {
  profile?: string
  args?: string[]
  fakeMicrophone?: string
}

/** A headless Chromium with a profile that can be opened again after it was killed. */
export async function launch({
  profile = mkdtempSync(join(tmpdir(), 'orthograph-profile-')),
  args = [],
  fakeMicrophone,
}: BrowserOptions = {}): Promise<Browser & { profile: string }> {
  const browser = await puppeteer.launch({
    executablePath: chromiumPath(),
    headless: true,
    userDataDir: profile,
    defaultViewport: VIEWPORT,
    protocolTimeout: 600_000,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--autoplay-policy=no-user-gesture-required',
      ...(fakeMicrophone
        ? [
            '--use-fake-ui-for-media-stream',
            '--use-fake-device-for-media-stream',
            `--use-file-for-fake-audio-capture=${fakeMicrophone}`,
          ]
        : []),
      ...args,
    ],
  })
  return Object.assign(browser, { profile })
}

/** How often a page is asked whether it is where a test waits for it to be, ms. */
const ASKS_EVERY = 50

/** A page that keeps a list of what went wrong in it: errors, failed requests, and requests that left the host. */
export async function openPage(browser: Browser, origin: string): Promise<Page & { faults: string[] }> {
  const page = await browser.newPage()
  // A busy machine takes its time; what is waited for is a state, whenever it comes.
  page.setDefaultTimeout(100_000)
  // Puppeteer asks with each picture, so that a page that rests draws 60 a second for it; a twentieth of a second will do.
  const waitForFunction = page.waitForFunction.bind(page)
  page.waitForFunction = (ask, options, ...args) => waitForFunction(ask, { polling: ASKS_EVERY, ...options }, ...args)
  // Short lessons of tests leave much to be looked at before they go out, and one question is recorded many times; what
  // is tested there says so itself.
  await page.evaluateOnNewDocument(() => {
    setInterval(() => {
      // A page without an origin has no storage, and nothing to be answered.
      if (location.protocol !== 'http:' || window !== window.top || sessionStorage.getItem('looks')) return
      const all = [...document.querySelectorAll('button')]
      all.find(b => ['Send all the same', 'Use the new take'].includes(b.textContent!.trim()))?.click()
    }, 100)
  })
  const faults: string[] = []
  page.on('console', message => {
    if (message.type() === 'error') faults.push(`console: ${message.text()}`)
  })
  page.on('pageerror', error => faults.push(`error: ${String(error)}`))
  page.on('requestfailed', request => {
    if (request.failure()?.errorText !== 'net::ERR_ABORTED')
      faults.push(`failed: ${request.url()} ${request.failure()?.errorText}`)
  })
  page.on('request', request => {
    const url = request.url()
    if (!/^(data|blob):/.test(url) && !url.startsWith(origin)) faults.push(`off the host: ${url}`)
  })
  page.on('dialog', dialog => {
    void dialog.accept()
  })
  return Object.assign(page, { faults })
}

/** Clicks the button or link whose text (or label) holds `text`. */
export async function press(page: Page, text: string, within = 'body'): Promise<void> {
  const handle = await page.waitForFunction(
    (wanted: string, scope: string) => {
      const all = [
        ...document.querySelectorAll<HTMLElement>(
          `${scope} button, ${scope} a, ${scope} [role=button], ${scope} label, ${scope} [role=option], ${scope} [role=menuitem]`,
        ),
      ]
      const found = all.find(
        e =>
          !e.closest('[inert]') &&
          !(e as HTMLButtonElement).disabled &&
          ((e.textContent ?? '').includes(wanted) || e.getAttribute('aria-label')?.includes(wanted)) &&
          e.getClientRects().length > 0,
      )
      // What is still being laid out would move away from under the pointer.
      const { x, y } = found?.getBoundingClientRect() ?? { x: 0, y: 0 }
      const seen = window as unknown as { seenAt?: string }
      const was = seen.seenAt
      seen.seenAt = `${wanted} ${x} ${y}`
      return was === seen.seenAt ? found : undefined
    },
    // By the clock: a tab that is not in front draws nothing.
    { timeout: 100_000, polling: 40 },
    text,
    within,
  )
  await (handle.asElement() as import('puppeteer-core').ElementHandle<Element>).click()
}

interface Inside extends HTMLElement {
  __vue_app__?: {
    config: {
      globalProperties: {
        $router: { push(to: string): Promise<unknown> }
        $pinia: { state: { value: { settings: { remembered: object } } } }
      }
    }
  }
}

/**
 * Goes to a place of the application as its own links do, where it is open already; else it is loaded.
 * @param settings that she changed before, beside those she has
 */
export async function visit(page: Page, origin: string, path: string, settings: object = {}): Promise<void> {
  const inside =
    page.url().startsWith(origin) &&
    (await page.evaluate(
      async (to: string, values: object) => {
        const own = document.querySelector<Inside>('#__nuxt')?.__vue_app__?.config.globalProperties
        if (!own) return false
        Object.assign(own.$pinia.state.value.settings.remembered, values)
        await own.$router.push(to)
        return true
      },
      path,
      settings,
    ))
  if (inside) return
  await page.goto(origin)
  await page.evaluate(v => localStorage.setItem('orthograph-settings', JSON.stringify(v)), settings)
  await page.goto(origin + path)
}

/** Waits until some text is on the page. */
export async function see(page: Page, text: string, timeout = 100_000): Promise<void> {
  await page.waitForFunction((wanted: string) => document.body.innerText.includes(wanted), { timeout }, text)
}

/** Waits until nothing on the page is on its way to somewhere any more; asked with each picture, so that there are some. */
export async function still(page: Page): Promise<void> {
  await page.waitForFunction(
    () =>
      document
        .getAnimations()
        .every(a => a.playState !== 'running' || a.effect?.getComputedTiming().iterations === Number.POSITIVE_INFINITY),
    { polling: 'raf' },
  )
}

/** Writes a line into the frame of the running take, at a share of its height. */
export async function drawLine(page: Page, y: number): Promise<void> {
  const f = (await (await page.$('[data-part=frame]'))!.boundingBox())!
  await page.mouse.move(f.x + f.width * 0.15, f.y + f.height * y)
  await page.mouse.down()
  await page.mouse.move(f.x + f.width * 0.4, f.y + f.height * (y + 0.02), { steps: 8 })
  await page.mouse.up()
}

/** Renders the video of one recorded question on the Publish screen, as she would. @param title of the question */
export async function renderQuestion(page: Page, origin: string, title: string): Promise<void> {
  await page.goto(`${origin}/folio/balloon-day/publish`)
  await see(page, 'Videos to render')
  await press(page, 'All recorded questions')
  await press(page, title)
  await press(page, 'The whole folio')
  await press(page, 'Render 1 video')
  await page.waitForFunction(
    (name: string) =>
      [...document.querySelectorAll('[data-part=video]')].some(
        v =>
          v.textContent?.includes(name) ||
          v.querySelector<HTMLInputElement>('[data-part=question-title]')?.value.includes(name),
      ),
    { timeout: 100_000 },
    title,
  )
}

/** Opens a folio file on the shelf, and waits until it stands there. */
export async function putOnShelf(page: Page, file: Blob, patience = 30_000): Promise<void> {
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-shelf-'))
  const path = join(dir, 'short.folio')
  writeFileSync(path, new Uint8Array(await file.arrayBuffer()))
  const input = (await page.waitForSelector('input[type=file]')) as ElementHandle<HTMLInputElement>
  const before = (await page.$$('[data-part=folio]')).length
  await input.uploadFile(path)
  await page.waitForFunction(
    n => document.querySelectorAll('[data-part=folio] canvas').length > n,
    { timeout: patience },
    before,
  )
  rmSync(dir, { recursive: true })
}

/** Turns a camera on in Solve, and closes the panel again. @param label of the camera, or a part of it */
export async function turnOnCamera(page: Page, label: string): Promise<void> {
  await page.click('[data-part=devices]')
  await page.waitForSelector('[data-part=camera] button')
  await page.click('[data-part=camera] button')
  await press(page, label, '[role=listbox]')
  await page.waitForFunction(
    () => !document.querySelector('[role=listbox]') && getComputedStyle(document.body).pointerEvents !== 'none',
  )
  await page.keyboard.press('Escape')
  await page.waitForFunction(() => !document.querySelector('[data-part=camera]'))
}
