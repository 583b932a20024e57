import type { Chapter, CutTurn } from '../cut/cut'
import { writeVtt, chapterCues, type Cue } from '../captions/vtt'
import { clockTime, escapeHtml } from './names'

/** What students get of one question. Times in cut ms. */
export interface PublishedQuestion {
  number: string
  title: string
  /** Path of the video, relative to the page, and its MIME type. */
  video: { path: string; mime: string }
  poster?: string
  duration: number
  chapters: Chapter[]
  captions: Cue[]
  /** Where the student is asked to try. */
  turns: CutTurn[]
  /** Base name of the files beside it. */
  base: string
}

export interface PublishedFolio {
  title: string
  course: string
  author: string
  questions: PublishedQuestion[]
  worksheets: { path: string; name: string }[]
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
    `media-src 'self'`,
    `font-src 'self'`,
    `base-uri 'none'`,
    `form-action 'none'`,
  ].join('; ')
  const facts = [
    ['Course', folio.course],
    ['Made by', folio.author],
    ['Questions', String(folio.questions.length)],
    ['Length', clockTime(folio.questions.reduce((s, q) => s + q.duration, 0))],
  ]
    .filter(([, value]) => value)
    .map(([name, value]) => `<div><dt>${name}</dt><dd>${escapeHtml(value!)}</dd></div>`)
    .join('')
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${escapeHtml(policy).replace(/&#39;/g, "'")}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<link rel="icon" href="data:,">
<title>${escapeHtml(folio.title)}</title>
<style>${assets.style}</style>
</head>
<body>
<a class="skip" href="#solutions">To the solutions</a>
<header class="block">
<h1>${escapeHtml(folio.title)}</h1>
<dl>${facts}</dl>
${folio.worksheets.map(w => `<a class="sheet" href="${escapeHtml(encodePath(w.path))}" download>Worksheet: ${escapeHtml(w.name)}</a>`).join('\n')}
</header>
<div class="find"><label>Search what is said and written <input id="find" type="search" autocomplete="off"></label><p id="found" role="status"></p></div>
<nav class="spine" aria-label="Questions">${folio.questions.map((q, i) => `<a href="#q${i + 1}" title="${escapeHtml(q.title)}">${escapeHtml(q.number)}</a>`).join('')}</nav>
<main id="solutions">
${folio.questions.map(questionSection).join('\n')}
</main>
<script>${assets.script}</script>
</body>
</html>
`
}

function questionSection(q: PublishedQuestion, index: number): string {
  const id = `q${index + 1}`
  const chapters = q.chapters.map(
    (c, i) =>
      `<li><button type="button" data-t="${Math.round(c.t)}" data-to="${Math.round(q.chapters[i + 1]?.t ?? q.duration)}"><span class="t">${clockTime(c.t)}</span><span>${escapeHtml(c.title)}</span></button></li>`,
  )
  const words = q.captions.map(
    c =>
      `<button type="button" class="said" data-t="${Math.round(c.from)}" data-to="${Math.round(c.to)}">${escapeHtml(c.text.replace(/\n/g, ' '))}</button>`,
  )
  return `<section class="question" id="${id}" aria-labelledby="${id}-name">
<h2 id="${id}-name"><span class="number">${escapeHtml(q.number)}</span> ${escapeHtml(q.title)}</h2>
<div class="lesson">
<div class="screen">
<video controls playsinline preload="metadata"${q.poster ? ` poster="${escapeHtml(encodePath(q.poster))}"` : ''}><source src="${escapeHtml(encodePath(q.video.path))}" type="${escapeHtml(q.video.mime)}"></video>
${q.turns.map(t => `<div class="turn" data-t="${Math.round(t.t)}" data-to="${Math.round(t.to)}" role="status" hidden><p><strong>Your turn.</strong> Try it yourself first; about ${suggested(t.seconds)}.</p><button type="button">Go on</button></div>`).join('')}
<div class="bar" hidden>
<button type="button" class="play">Play</button>
<input type="range" class="at" min="0" max="${Math.round(q.duration)}" value="0" step="10" aria-label="Place in the video">
<span class="time">${clockTime(0)} of ${clockTime(q.duration)}</span>
<button type="button" class="wide">Full screen</button>
</div>
<div class="tools">
<label>Speed <select class="speed"><option>0.5</option><option>0.75</option><option selected>1</option><option>1.25</option><option>1.5</option><option>2</option></select></label>
<label><input type="checkbox" class="captions"> Captions</label>
<a href="${escapeHtml(encodePath(q.video.path))}" download>Download video</a>
</div>
</div>
<div class="steps"><h3>Steps</h3><ol>${chapters.join('')}</ol></div>
</div>
<details class="transcript"><summary>Transcript</summary><p>${words.join(' ')}</p></details>
</section>`
}

const suggested = (seconds: number) =>
  seconds < 60 ? `${seconds} seconds` : seconds === 60 ? 'a minute' : `${Math.round(seconds / 60)} minutes`

/** A relative path as a URL, each part encoded. */
export function encodePath(path: string): string {
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
