import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Browser } from 'puppeteer-core'
import { seededRandom } from '../core/ink'
import type { Listing } from '../core/publish'
import { siteStorage } from '../server/classSite/drivers'
import { LIMITS } from '../server/classSite/limits'
import { classSiteListener } from '../server/classSite/serve'
import { ClassSite } from '../server/classSite/store'
import { openPage } from '../tests/support/browser'

const LESSONS = 300
const ROUNDS = 9
/** As slow as a phone beside this machine. */
const SLOWED = 4
const WORDS =
  'rate climb common denominator balloon helium litre height minute factor root graph table axis energy'.split(' ')

const built = (name: string) => readFileSync(join(import.meta.dirname, '../student/built', name), 'utf8')

/** A lesson of twelve questions with six steps each. */
function listing(n: number): Listing {
  const random = seededRandom(n + 1)
  const words = (count: number) =>
    Array.from({ length: count }, () => WORDS[Math.floor(random() * WORDS.length)]).join(' ')
  const steps = () =>
    Array.from({ length: 6 }, (_, i) => ({
      t: i * 10_000,
      title: words(4),
      also: `x = ${Math.round(random() * 99999)}`,
    }))
  const questions = Array.from({ length: 12 }, (_, i) => ({
    id: `q${i}`,
    number: String(i + 1),
    title: words(3),
    duration: 60_000,
    print: [words(30)],
    steps: steps(),
  }))
  return { form: 1, lesson: `lesson-${n}`, title: `Lesson ${n}`, part: '', due: '', questions }
}

/**
 * A class page of 300 lessons: how long it takes the site to answer, and a browser to show what was typed into its
 * search, ms.
 */
export async function classPageOfMany(browser: Browser): Promise<{ answers: number[]; searches: number[] }> {
  const folder = mkdtempSync(join(tmpdir(), 'orthograph-bench-class-'))
  const classPage = {
    script: built('classPage.js'),
    style: built('classPage.css'),
    icons: built('icons.svg'),
    face: async () => null,
  }
  const player = { script: 'sha256-a', style: 'sha256-b', classPage }
  const site = new ClassSite(siteStorage(folder), player, { ...LIMITS, begunAMinute: LESSONS })
  const course = await site.courses.open({ name: 'Bench', author: '' })
  for (let n = 0; n < LESSONS; n++) {
    const { id } = await site.begin('Lesson')
    const put = async (text: string) => {
      const sha = createHash('sha256').update(text).digest('hex')
      const body = (async function* () {
        yield Buffer.from(text)
      })()
      await site.receive(id, sha, body, { from: 0, total: null })
      return { sha, size: Buffer.byteLength(text), from: null }
    }
    const holds = { pages: [await put('<p>')], feeds: [], listings: [await put(JSON.stringify(listing(n)))], files: {} }
    await site.publish(
      id,
      { form: 1, title: 'Lesson', player: { script: 'sha256-a', style: 'sha256-b' }, ...holds, counted: null },
      null,
    )
    await site.list(id, course)
  }
  const server = createServer(classSiteListener(site))
  await new Promise<void>(r => server.listen(0, '127.0.0.1', r))
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}/course/${course}/`
  try {
    const answers: number[] = []
    for (let i = 0; i < ROUNDS; i++) {
      const began = performance.now()
      await (await fetch(at)).text()
      answers.push(performance.now() - began)
    }
    const page = await openPage(browser, at)
    await page.goto(at)
    await page.focus('#find')
    await page.waitForNetworkIdle()
    await page.emulateCPUThrottling(SLOWED)
    const searches: number[] = []
    for (let i = 0; i < ROUNDS; i++)
      searches.push(
        await page.evaluate(async (word: string) => {
          const find = document.querySelector<HTMLInputElement>('#find')!
          const list = document.querySelector('#hits')!
          const changed = new Promise<void>(resolve => {
            new MutationObserver(() => resolve()).observe(list, { childList: true })
          })
          const began = performance.now()
          find.value = word
          find.dispatchEvent(new Event('input'))
          await changed
          return performance.now() - began
        }, WORDS[i]!),
      )
    await page.close()
    return { answers, searches }
  } finally {
    server.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
