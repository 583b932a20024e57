import { reasonOf, Trouble, type Folio } from '#core/folio'
import { base64, decodeLesson, deflated, encodeLesson, fromBase64, inflated, type Lesson } from '#core/lesson'
import { checkAddresses, encodePath, FEED, unlikeness, type Fault } from '#core/publish'
import { BoardIndex, type Board } from '#core/recording'
import scriptUrl from '../../student/built/player.js?url'
import type { SiteCut, StudentSite } from './package'
import { MOMENTS, momentsOf, MOST_UNLIKE, pixelsOf, wantedAt, WIDTH } from './verifyMoments'
import { soundFaults } from './verifySound'
import { verifyVideo } from './verifyVideo'
import { newListenRunner } from './workers'

/** What was opened again and checked, and what is wrong with it. */
export interface SiteReport {
  pages: number
  files: number
  replays: number
  pictures: number
  /** Stretches of sound that were compared. */
  sounds: number
  captions: number
  videos: number
  /** Whether the page was seen to play; a tab that is not in front cannot tell. */
  played: boolean
  faults: Fault[]
  ms: number
}

/** The page is laid out so wide, CSS px. */
const FRAME_WIDTH = 1100
/** What does not answer is given up, ms. */
const PATIENCE = 20_000

export interface VerifyOptions {
  onProgress: (share: number) => void
  signal: AbortSignal
  /** Cuts that were checked before and are the same since, by the names of their content; what holds is added. */
  known?: Set<string>
}

/**
 * Opens what goes out again, from the bytes as they are packed, and checks it: addresses, replays against the editions
 * (length, pictures, sound), captions, videos, and that the page plays in a frame of its own.
 * @param files by their paths, as they go out
 * @throws Trouble `cancelled`
 */
export async function verifySite(
  site: StudentSite,
  files: ReadonlyMap<string, Blob>,
  folio: Folio,
  { onProgress, signal, known }: VerifyOptions,
): Promise<SiteReport> {
  const began = performance.now()
  const report: SiteReport = {
    ...{ pages: site.pages.length, files: files.size, replays: 0, pictures: 0, sounds: 0, captions: 0, videos: 0 },
    ...{ played: false, faults: [], ms: 0 },
  }
  for (const { html, feed } of site.pages) {
    report.faults.push(...checkAddresses(html, path => path === FEED || files.has(path)))
    report.faults.push(...checkFeed(feed, files))
  }
  const urls = new Map([...files].map(([path, blob]) => [path, URL.createObjectURL(blob)]))
  try {
    const cuts = site.cuts.filter(c => !known?.has(c.published.base))
    let done = 0
    const total = cuts.length + site.pages.length
    const step = () => onProgress(++done / total)
    // Sounds are decoded and made elsewhere, while the pictures are looked at here.
    const heard = async () => {
      const runner = newListenRunner()
      try {
        for (const cut of cuts) {
          signal.throwIfAborted()
          await checked(report, 'index.html', cut, () => verifyData(cut, site, report))
          await checked(report, cut.lesson.lesson.sound?.path ?? '', cut, () => verifySound(cut, files, runner, report))
          await checked(report, `${cut.published.base}.captions.vtt`, cut, () => verifyCaptions(cut, urls, report))
          if (cut.video)
            await checked(report, cut.published.video!.path, cut, () => verifyVideo(cut, files, folio, runner, report))
          step()
        }
      } finally {
        runner.close()
      }
    }
    const seen = async () => {
      for (const { html } of site.pages) {
        signal.throwIfAborted()
        await checked(report, 'index.html', null, () => verifyPage(html, cuts, urls, folio, report))
        step()
      }
    }
    await Promise.all([heard(), seen()])
    if (!report.faults.length) for (const cut of cuts) known?.add(cut.published.base)
  } finally {
    for (const url of urls.values()) URL.revokeObjectURL(url)
  }
  report.ms = performance.now() - began
  return report
}

/** The feed as its readers read it: each video it names is there, and as large as it says. */
function checkFeed(feed: string, files: ReadonlyMap<string, Blob>): Fault[] {
  const read = new DOMParser().parseFromString(feed, 'application/xml')
  const next = 'Publish once more.'
  if (read.querySelector('parsererror')) return [{ file: FEED, what: 'cannot be read', next }]
  return [...read.querySelectorAll('item > enclosure')].flatMap(video => {
    const [url, length] = ['url', 'length'].map(name => video.getAttribute(name) ?? '') as [string, string]
    const file = [...files].find(([path]) => url.endsWith(encodePath(path)))?.[1]
    return file && String(file.size) === length ? [] : [{ file: FEED, what: `names ${url}, which is not there`, next }]
  })
}

/** What throws while it is checked is a fault of its file. @param cut whose file it is, where it is one question's */
async function checked(report: SiteReport, file: string, cut: SiteCut | null, check: () => Promise<void>) {
  try {
    await check()
  } catch (error) {
    report.faults.push({
      file,
      what: `${cut ? `of question ${cut.published.number} ` : ''}cannot be checked (${reasonOf(error)})`,
      next: 'Publish once more; if it happens again, publish from another browser.',
    })
  }
}

/** What the page's data says stands on the board, and how long it is, beside what the edition says. */
async function verifyData({ lesson, published }: SiteCut, { pages }: StudentSite, report: SiteReport) {
  const { edition } = lesson
  const fault = (what: string) =>
    report.faults.push({ file: 'index.html', what: `question ${published.number} ${what}`, next: 'Publish once more.' })
  report.replays++
  const packed = pages.find(p => p.html.includes(`>${published.lesson}</script>`))
  if (!packed) return void fault('is not on the page')
  const { index, duration } = replayOf(decodeLesson(await inflated(fromBase64(published.lesson))))
  if (Math.abs(duration - edition.duration) > 1) return void fault('is not as long as its solution')
  for (const t of momentsOf({ lesson }, MOMENTS)) {
    const [seen, wanted] = [index.at(t), edition.boardAt(t)]
    const same = (a: readonly { id: string }[], b: readonly { id: string }[]) =>
      a.map(x => x.id).join() === b.map(x => x.id).join()
    if (!same(strokesOf(seen), strokesOf(wanted)) || !same(seen.things, wanted.things))
      fault(`has not what its solution has on the board at ${Math.round(t / 1000)} s`)
  }
}
const strokesOf = ({ strokes }: Board) => strokes.map(s => ({ id: `${s.stroke.id} ${s.count}` }))
const replayOf = (lesson: Lesson) => ({
  index: BoardIndex.of({ until: () => lesson }, lesson.first),
  duration: lesson.duration,
})

async function verifySound(
  cut: SiteCut,
  files: ReadonlyMap<string, Blob>,
  runner: ReturnType<typeof newListenRunner>,
  report: SiteReport,
) {
  const path = cut.lesson.lesson.sound?.path
  const file = path !== undefined && files.get(path)
  if (!file) return
  const { compared, faults } = await soundFaults(cut, file, runner)
  report.sounds += compared
  for (const what of faults)
    report.faults.push({ file: path, what: `${what} (question ${cut.published.number})`, next: 'Publish once more.' })
}

/** The browser itself reads them. */
async function verifyCaptions({ published }: SiteCut, urls: ReadonlyMap<string, string>, report: SiteReport) {
  const path = `${published.base}.captions.vtt`
  const video = document.createElement('video')
  const track = document.createElement('track')
  track.kind = 'captions'
  track.src = urls.get(path) ?? ''
  video.append(track)
  track.track.mode = 'hidden'
  const read = await within(
    new Promise<boolean>(done => {
      track.onload = () => done(true)
      track.onerror = () => done(false)
    }),
  )
  const cues = track.track.cues?.length ?? 0
  report.captions++
  if (!read || cues !== published.captions.length)
    report.faults.push({
      file: path,
      what: `has ${cues} captions that can be read; there are ${published.captions.length}`,
      next: 'Look at the words of its steps on Proof, then publish once more.',
    })
}

const within = <T>(work: Promise<T>): Promise<T> =>
  Promise.race([work, new Promise<T>((_, fail) => setTimeout(() => fail(new Error('it did not answer')), PATIENCE))])

/** Opens the page in a frame of its own, from the packed files, and looks at every question in it. */
async function verifyPage(
  html: string,
  cuts: readonly SiteCut[],
  urls: ReadonlyMap<string, string>,
  folio: Folio,
  report: SiteReport,
) {
  // A tab that is not in front lays nothing out and draws nothing: what its data says has been looked at.
  if (document.hidden) return
  const frame = document.createElement('iframe')
  frame.title = 'The page, while it is checked'
  frame.setAttribute('aria-hidden', 'true')
  frame.tabIndex = -1
  // In sight, as far as the page can tell: what is not, it does not open.
  const place = { position: 'fixed', left: '0', top: '0', zIndex: '-1', opacity: '0', pointerEvents: 'none' }
  Object.assign(frame.style, place, { width: `${FRAME_WIDTH}px`, height: '700px' })
  frame.srcdoc = await packed(html, urls)
  document.body.append(frame)
  try {
    await within(new Promise(done => (frame.onload = done)))
    const page = frame.contentDocument!
    for (const section of page.querySelectorAll<HTMLElement>('section.question')) {
      const hint = section.querySelector('.hint') !== null
      const cut = cuts.find(c => c.published.id === section.dataset.question && !!c.published.hint === hint)
      if (cut) await verifyReplay(section, cut, folio, report)
    }
    report.played ||= await plays(page)
  } catch (error) {
    if (!document.hidden) throw error
  } finally {
    frame.remove()
  }
}

/** The page with its files where the browser holds them; what its lessons name, too. */
async function packed(html: string, urls: ReadonlyMap<string, string>): Promise<string> {
  const url = (path: string) => urls.get(path) ?? path
  let page = html
    // What is looked at here is not what the teacher has seen as a student.
    .replace('<html ', '<html data-keeps="nothing" ')
    .replace(/<meta http-equiv="Content-Security-Policy"[^>]*>/, '')
    .replace(/<script>[^]*?<\/script>/, `<script src="${scriptUrl}"></script>`)
    // What a lesson can be looked at without is not needed here.
    .replace(/<script>[^]*?<\/script>/, '')
    .replaceAll('url(fonts/', 'url(/fonts/')
  for (const [path, held] of urls) page = page.replaceAll(`="${encodePath(path)}"`, `="${held}"`)
  const lessons = [...page.matchAll(/x-orthograph-lesson" data-of="q\d+">([^<]*)</g)].map(m => m[1]!)
  for (const text of lessons) {
    const lesson = decodeLesson(await inflated(fromBase64(text)))
    page = page.replace(text, base64(await deflated(encodeLesson(placed(lesson, url)))))
  }
  return page
}

const placed = (lesson: Lesson, url: (path: string) => string): Lesson => ({
  ...lesson,
  views: lesson.views.map(v => ({ ...v, pictures: v.pictures.map(p => ({ ...p, path: url(p.path) })) })),
  documents: lesson.documents.map(d => ({ ...d, path: url(d.path) })),
  sound: lesson.sound && { ...lesson.sound, path: url(lesson.sound.path) },
})

/** Brings a question of the page to the front, as its own strip does. */
const toFront = (section: HTMLElement) =>
  section.ownerDocument.querySelector<HTMLElement>(`.strip a[data-of="${section.id}"]`)?.click()

async function verifyReplay(section: HTMLElement, cut: SiteCut, folio: Folio, report: SiteReport) {
  const { edition } = cut.lesson
  const fault = (what: string) =>
    report.faults.push({
      file: 'index.html',
      what: `question ${cut.published.number} ${what}`,
      next: 'Publish once more.',
    })
  toFront(section)
  const stage = section.querySelector<HTMLElement>('.stage')!
  const seek = section.querySelector<HTMLInputElement>('.at')!
  await within(until(() => !stage.hidden || section.querySelector<HTMLElement>('.word')?.hidden === false))
  if (stage.hidden) return void fault('cannot be read by the page’s own player')
  if (Math.abs(Number(seek.max) - edition.duration) > 2) return void fault('is not as long as its solution')
  const layers = ['.board', '.live'].map(c => section.querySelector<HTMLCanvasElement>(`canvas${c}`)!)
  for (const t of momentsOf(cut, MOMENTS)) {
    // What lies under the ink is sharpened a while after it is seen first.
    let unlike = 1
    const wanted = await wantedAt(cut, t, folio)
    for (let tries = 0; tries < 20 && unlike > MOST_UNLIKE; tries++) {
      if (tries) await new Promise(r => setTimeout(r, 100))
      seek.value = String(Math.round(t))
      seek.dispatchEvent(new Event('input'))
      await new Promise(r => setTimeout(r, 20))
      unlike = unlikeness(pixelsOf(...layers), wanted, WIDTH)
    }
    report.pictures++
    if (unlike > MOST_UNLIKE && !document.hidden)
      fault(`does not look as its solution does at ${Math.round(t / 1000)} s`)
  }
}

/** Whether it plays when it is asked to; its sound is not heard meanwhile. */
async function plays(page: Document): Promise<boolean> {
  const section = page.querySelector<HTMLElement>('section.question')
  // A tab that is not in front draws nothing.
  if (!section || document.hidden) return false
  toFront(section)
  const button = section.querySelector<HTMLButtonElement>('.play')!
  const seek = section.querySelector<HTMLInputElement>('.at')!
  seek.value = '0'
  seek.dispatchEvent(new Event('input'))
  button.click()
  try {
    await within(until(() => Number(section.dataset.ms) > 150 || document.hidden))
  } finally {
    button.click()
  }
  if (document.hidden) return false
  return true
}

function until(holds: () => boolean): Promise<void> {
  return new Promise(done => {
    const look = () => (holds() ? done() : void setTimeout(look, 30))
    look()
  })
}

/** What is wrong, as one trouble: it names the file and what to do. */
export function faultTrouble({ faults }: SiteReport): Trouble {
  const [first] = faults
  const more = faults.length > 1 ? ` ${faults.length - 1} more ${faults.length === 2 ? 'is' : 'are'} listed.` : ''
  return new Trouble(
    'check-failed',
    `Checked before it goes out: ${first!.file} ${first!.what}.${more}`,
    'Students have what they had before; nothing of this was shown.',
    first!.next,
  )
}
