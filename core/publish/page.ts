import type { Chapter, CutTurn } from '../cut/cut'
import { writeVtt, chapterCues, type Cue } from '../captions/vtt'
import type { Plan } from '../folio/model'
import { clockTime, escapeHtml } from './names'
import { questionSection } from './questionSection'

/** What students get of one question. Times in cut ms. */
export interface PublishedQuestion {
  /** Its id in the folio, so that what a student hands in finds its way. */
  id: string
  number: string
  title: string
  /** Its replay: base64 of its deflated lesson (core/lesson). */
  lesson: string
  /** The replay's sound, for where scripts are off. */
  sound?: { path: string; mime: string }
  /** Path of the video, relative to the page, its MIME type and size; where one was made. */
  video?: { path: string; mime: string; bytes: number }
  poster?: string
  duration: number
  /** With what was typed in them, for search. */
  chapters: (Chapter & { also?: string })[]
  captions: Cue[]
  /** Where the student is asked to try. */
  turns: CutTurn[]
  /** What is printed of it, line by line. */
  print: string[]
  /** Labels of its options, and the right one. */
  choice?: { labels: string[]; answer: string }
  /** Base name of the files beside it. */
  base: string
  /** What its video is called when it is saved. */
  name: string
  /** What was asked, and the teacher's answers; `t`: at which moment, where that is known. */
  replies?: { t: number | null; asked: string; says: string }[]
  /** A hint cut: the beginning of the way; `fullFrom`: from when the whole solution is there, ISO. */
  hint?: { fullFrom: string }
}

/** A question of which students get nothing yet. @property opens when they do, ISO */
export interface ClosedQuestion {
  id: string
  number: string
  title: string
  opens: string
}
export type ListedQuestion = PublishedQuestion | ClosedQuestion
export const isClosed = (q: ListedQuestion): q is ClosedQuestion => 'opens' in q

export interface PublishedFolio {
  /** Names the lesson in the student's browser, whatever its version. */
  id: string
  title: string
  course: string
  author: string
  /** In their order; each keeps its place, and so its address, while others are closed. */
  questions: ListedQuestion[]
  worksheets: { path: string; name: string }[]
  /** Its feed for readers. */
  feed?: string
  /** Due date and releases, for a calendar. */
  calendar?: string
  plan: Pick<Plan, 'lesson' | 'due' | 'bring' | 'next' | 'related'>
  /** What is not assigned, and why. */
  skipped: { name: string; why: string }[]
  /** When it was last changed under its link, ISO. */
  changed?: string
  /** Its host takes messages to the teacher, and counts plays. */
  host?: { takes: boolean; counts: boolean }
}

/** The page's own script and style; the same for every publication, never made from data. */
export interface PageAssets {
  script: string
  style: string
}

/** Base64 of the SHA-256 of a text, as a Content-Security-Policy names it. */
export async function digest(text: string): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text)))
  return btoa(String.fromCharCode(...hash))
}

/** A page's language is that of its own words; what the teacher writes may be another. */
const LANGUAGE = 'en'

/**
 * The student page: one HTML file that works from a folder or any web host. Script and style are the application's own
 * and named in the policy by their hashes; everything of the teacher's is escaped text, and nothing else may run.
 */
export async function studentPage(folio: PublishedFolio, assets: PageAssets): Promise<string> {
  const policy = [
    `default-src 'none'`,
    `script-src 'sha256-${await digest(assets.script)}'`,
    `style-src 'sha256-${await digest(assets.style)}'`,
    `img-src 'self' data:`,
    `media-src 'self' blob:`,
    // Its own sound, whole, where a host gives files only from their beginning.
    `connect-src 'self'`,
    `font-src 'self'`,
    `base-uri 'none'`,
    `form-action 'none'`,
  ].join('; ')
  return `<!doctype html>
<html lang="${LANGUAGE}" data-lesson="${escapeHtml(folio.id)}"${folio.host?.takes ? ' data-takes="messages"' : ''}${folio.host?.counts ? ' data-counts="plays"' : ''}>
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${escapeHtml(policy).replace(/&#39;/g, "'")}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<link rel="icon" href="data:,">
${folio.feed ? `<link rel="alternate" type="application/rss+xml" title="${escapeHtml(folio.title)}" href="${escapeHtml(folio.feed)}">` : ''}
<title>${escapeHtml(folio.title)}</title>
<style>${assets.style}</style>
</head>
<body>
<a class="skip" href="#solutions">To the solutions</a>
${titleBlock(folio)}
<section class="find" aria-label="Search and light">
<label for="find">Search</label>
<input id="find" type="search" autocomplete="off" placeholder="What is said, written, printed">
<p id="found" role="status"></p>
<label for="theme" class="theme">Light <select id="theme"><option value="auto">as this device</option><option value="light">light</option><option value="dark">dark</option></select></label>
<ol id="hits" hidden></ol>
</section>
<nav class="list" aria-label="Questions"><ol>${folio.questions.map(listed).join('')}</ol></nav>
<main id="solutions">
${folio.questions.map(questionSection).join('\n')}
${practiceSection(folio.plan.next)}
</main>
${footer(folio)}
<script>${assets.script}</script>
</body>
</html>
`
}

function titleBlock(folio: PublishedFolio): string {
  const { plan } = folio
  const facts = [
    ['Course', folio.course],
    ['Lesson', plan.lesson],
    ['Due', plan.due && dateInWords(plan.due)],
    ['Bring', plan.bring],
    ['Made by', folio.author],
    [
      'Questions',
      `${folio.questions.length}, ${clockTime(folio.questions.reduce((s, q) => s + (isClosed(q) ? 0 : q.duration), 0))}`,
    ],
  ]
    .filter(([, value]) => value)
    .map(([name, value]) => `<div><dt>${name}</dt><dd>${escapeHtml(value!)}</dd></div>`)
    .concat(folio.changed ? `<div><dt>Changed</dt><dd>${moment(folio.changed)}</dd></div>` : [])
    .join('')
  const sheets = folio.worksheets
    .map(w => `<a class="sheet" href="${escapeHtml(encodePath(w.path))}" download>Worksheet: ${escapeHtml(w.name)}</a>`)
    .concat(
      folio.calendar
        ? `<a class="sheet" href="${escapeHtml(encodePath(folio.calendar))}" download="dates.ics">Dates for your calendar</a>`
        : [],
    )
    .join('\n')
  const skipped = folio.skipped.length
    ? `<p class="skipped">Not assigned: ${folio.skipped.map(s => `${escapeHtml(s.name)}${s.why ? ` (${escapeHtml(s.why)})` : ''}`).join('; ')}</p>`
    : ''
  return `<header class="block">
<h1>${escapeHtml(folio.title)}</h1>
<dl>${facts}</dl>
${skipped}${sheets}
<button type="button" id="go-on" hidden></button>
</header>`
}

/** A moment, as it stands without scripts; the page's script writes it in the student's own time. */
export function moment(iso: string): string {
  const at = new Date(iso)
  const said = at.toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone: 'UTC' })
  return `<time datetime="${at.toISOString()}">${said} UTC</time>`
}

function listed(q: ListedQuestion, i: number): string {
  const name = `<span class="name"><b>${escapeHtml(q.number)}</b> ${escapeHtml(q.title)}</span>`
  if (isClosed(q)) return `<li class="closed"><a href="#q${i + 1}">${name}<span class="t">later</span></a></li>`
  const picture = q.poster
    ? `<img src="${escapeHtml(encodePath(q.poster))}" alt="" width="160" height="90" loading="lazy">`
    : ''
  return `<li><a href="#q${i + 1}">${picture}${name}<span class="t">${q.hint ? 'hint, ' : ''}${clockTime(q.duration)}</span></a></li>`
}

function practiceSection(next: Plan['next']): string {
  const items = next.filter(n => n.text.trim())
  if (!items.length) return ''
  const one = (n: Plan['next'][number], i: number) => `<li>
<p>${escapeHtml(n.text)}</p>
${
  n.answer.trim()
    ? `<form data-answer="${escapeHtml(n.answer)}"><label for="own-${i}">Your answer</label> <input id="own-${i}" autocomplete="off" maxlength="500"> <button type="submit">Check</button> <span class="says" role="status"></span></form>
${n.hint.trim() ? `<details><summary>A hint</summary><p>${escapeHtml(n.hint)}</p></details>` : ''}
<details><summary>The answer</summary><p>${escapeHtml(n.answer)}</p></details>`
    : ''
}
</li>`
  return `<section class="practice" id="practice" aria-labelledby="practice-name">
<h2 id="practice-name">What to do next</h2>
<ol>${items.map(one).join('\n')}</ol>
</section>`
}

/** Addresses that a link may lead to. */
const LINKABLE = /^(https?:\/\/|mailto:)/i

function footer({ plan, feed }: PublishedFolio): string {
  const related = plan.related
    .filter(r => r.title.trim() || r.address.trim())
    .map(r => {
      const name = escapeHtml(r.title.trim() || r.address.trim())
      return LINKABLE.test(r.address.trim())
        ? `<li><a href="${escapeHtml(r.address.trim())}" rel="noreferrer">${name}</a></li>`
        : `<li>${name}</li>`
    })
    .join('')
  return `<footer>
${related ? `<section class="related"><h2>Related lessons</h2><ul>${related}</ul></section>` : ''}
<section class="mine"><h2>Yours</h2>
<p>What you write, answer and choose here stays in this browser. <span id="kept-word" role="status" hidden></span></p>
<button type="button" id="save-mine">Save it as a file</button> <button type="button" id="clear-mine">Clear it</button></section>
${feed ? `<p><a href="${escapeHtml(feed)}">These solutions as a feed (RSS)</a></p>` : ''}
</footer>`
}

/** "2026-12-04" → "4 December 2026"; anything else as it is. */
function dateInWords(date: string): string {
  const [y, m, d] = date.split('-').map(Number)
  if (!y || !m || !d) return date
  return new Date(Date.UTC(y, m - 1, d)).toLocaleDateString('en-GB', { dateStyle: 'long', timeZone: 'UTC' })
}

/** A relative path as a URL, each part encoded; what the browser itself holds has one already. */
export function encodePath(path: string): string {
  if (path.startsWith('blob:')) return path
  return path.split('/').map(encodeURIComponent).join('/')
}

/** The WebVTT files that stand beside a video. */
export function sidecars(
  q: Pick<PublishedQuestion, 'base' | 'chapters' | 'captions' | 'duration'>,
): { path: string; text: string }[] {
  return [
    { path: `${q.base}.chapters.vtt`, text: writeVtt(chapterCues(q.chapters, q.duration)) },
    { path: `${q.base}.captions.vtt`, text: writeVtt(q.captions) },
  ]
}
