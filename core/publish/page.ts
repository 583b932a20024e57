import type { Chapter, CutTurn } from '../cut/cut'
import { writeVtt, chapterCues, type Cue } from '../captions/vtt'
import type { Plan } from '../folio/model'
import { attributes, html, trusted, type Html } from './html'
import { pageFooter, pageHead, practiceList, practiceSection } from './pageParts'
import { questionSection } from './questionSection'
import type { WrittenLine } from './written'

/** What students get of one question. Times in cut ms. */
export interface PublishedQuestion {
  /** Its id in the folio, so that what a student hands in finds its way. */
  id: string
  number: string
  title: string
  /** Its places, from 1, in versions that students had before: addresses were of places then. */
  places?: number[]
  /** Since when students have it as it is, ISO; where the host keeps versions. */
  changed?: string
  /** Its replay: base64 of its deflated lesson (core/lesson). */
  lesson: string
  /** The replay's sound, for where scripts are off. */
  sound?: { path: string; mime: string }
  /** Path of the video, relative to the page, its MIME type and size; where one was made. */
  video?: { path: string; mime: string; bytes: number }
  poster?: string
  duration: number
  /** With what was typed in them, for search, and what was written, line by line. */
  chapters: (Chapter & { also?: string; written?: WrittenLine[] })[]
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

/**
 * A question of which students get no solution yet. @property opens when they do, ISO @property print what is printed of
 * it, line by line @property picture its place on the page, as it is handed out
 */
export interface ClosedQuestion {
  id: string
  number: string
  title: string
  print?: string[]
  picture?: string
  changed?: string
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
  /** Files beside it that it needs without a line, and their bytes; where the host gives the worker for that. */
  toKeep?: { files: string[]; bytes: number }
  /** The page of all lessons of its course, and its address relative to this page. */
  classPage?: { name: string; address: string }
  /** Its host takes messages to the teacher, and counts plays. */
  host?: { takes: boolean; counts: boolean }
}

/**
 * The page's own scripts, style and icons (an SVG sprite); the same for every publication, never made from data. `aids`
 * comes after the lessons: it is what a lesson can be looked at without.
 */
export interface PageAssets {
  script: string
  aids: string
  style: string
  icons: string
}

/** What stands after # in the address of a question; it stays when questions come before it. */
export const addressOf = ({ id }: Pick<ListedQuestion, 'id'>): string => `q-${id}`

/** Base64 of the SHA-256 of a text, as a Content-Security-Policy names it. */
export async function digest(text: string): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text)))
  return btoa(String.fromCharCode(...hash))
}

/** A page's language is that of its own words; what the teacher writes may be another. */
const LANGUAGE = 'en'

/** The policy of a page: script and style are named by their hashes, and nothing is asked for off its own host. */
const policyOf = async ({ script, aids, style }: PageAssets) =>
  [
    `default-src 'none'`,
    `script-src 'sha256-${await digest(script)}' 'sha256-${await digest(aids)}'`,
    `style-src 'sha256-${await digest(style)}'`,
    `img-src 'self' data:`,
    `media-src 'self' blob:`,
    // Its own sound, whole, where a host gives files only from their beginning.
    `connect-src 'self'`,
    `worker-src 'self'`,
    `font-src 'self'`,
    `base-uri 'none'`,
    `form-action 'none'`,
  ].join('; ')

/**
 * The student page: one HTML file that works from a folder or any web host. Script and style are the application's own
 * and named in the policy by their hashes; everything of the teacher's is escaped text, and nothing else may run.
 * @returns the page's HTML
 */
export async function studentPage(folio: PublishedFolio, assets: PageAssets): Promise<string> {
  const { questions, host } = folio
  const beside = (id: string) => practiceList(folio.plan.next.filter(n => n.questionId === id))
  const sections = questions.map((q, i) => questionSection(q, i, beside(q.id)))
  // What belongs to a question that is not there whole waits with it.
  const atEnd = folio.plan.next.filter(n => !n.questionId || !questions.some(q => q.id === n.questionId))
  const root = attributes({
    'lang': LANGUAGE,
    'data-lesson': folio.id,
    'data-takes': host?.takes && 'messages',
    'data-counts': host?.counts && 'plays',
  })
  const policy = trusted((await policyOf(assets)).replace(/"/g, ''))
  const { markup } = html`<html${root}>
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<link rel="icon" href="data:,">
${folio.feed && html`<link rel="alternate" type="application/rss+xml" title="${folio.title}" href="${folio.feed}" />`}
<title>${folio.title}</title>
<style>${trusted(assets.style)}</style>
</head>
<body>
${trusted(assets.icons)}
<a class="skip" href="#solutions">To the solutions</a>
${pageHead(folio, atEnd)}
<main id="solutions">
${sections.map(s => s.section)}
${practiceSection(atEnd)}
</main>
${pageFooter(folio)}
${sections.slice(0, 1).map(s => s.lesson)}
${folio.toKeep && listToKeep(folio.toKeep)}
<script>${trusted(assets.script)}</script>
${sections.slice(1).map(s => s.lesson)}
<script>${trusted(assets.aids)}</script>
</body>
</html>
`
  return `<!doctype html>\n${markup}`
}

/** As data that nothing can end: JSON without the signs of markup. */
const listToKeep = (toKeep: NonNullable<PublishedFolio['toKeep']>) =>
  trusted(`<script type="application/json" id="to-keep">${JSON.stringify(toKeep).replace(/</g, '\\u003c')}</script>`)

/** A moment, as it stands without scripts; the page's script writes it in the student's own time. */
export function moment(iso: string): Html {
  const at = new Date(iso)
  const said = at.toLocaleString('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone: 'UTC' })
  return html`<time datetime="${at.toISOString()}">${said} UTC</time>`
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
