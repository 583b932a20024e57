import { attributes, html, trusted, type Html } from './html'
import type { Listing } from './listing'
import { addressOf, encodePath, moment, type PageAssets } from './page'
import { dateInWords, foundList, progressMark, searchField } from './pageParts'

/** A lesson on a class page. Moments are ISO. */
export interface ClassLesson {
  /** Its address, relative to the class page. */
  address: string
  /** When it was first published, and when it was last changed. */
  published: string
  changed: string
  /** What it tells of itself; null for one that was published before there were listings. */
  listing: Listing | null
  title: string
}

export interface ClassPage {
  name: string
  author: string
  /** The newest first. */
  lessons: readonly ClassLesson[]
  /** When lessons open of which students have nothing yet, ISO. */
  ahead: readonly string[]
}

/** What class pages are made with. */
export type ClassPageAssets = Omit<PageAssets, 'aids'>

/** Where the words of all lessons stand, beside the page. */
export const SEARCH_FILE = 'search.json'

/**
 * The class page: a row for each lesson of a course, with its questions, dates, and room for what is new and how far
 * this browser got. It works without scripts.
 * @returns the page's HTML
 */
export function classPage(page: ClassPage, { script, style, icons }: ClassPageAssets): string {
  const { name, author, lessons } = page
  const { markup } = html`<html lang="en">
    <head>
      <meta charset="utf-8" />
      <meta name="viewport" content="width=device-width, initial-scale=1" />
      <meta name="referrer" content="no-referrer" />
      <link rel="icon" href="data:," />
      <title>${name}</title>
      ${trusted(`<style>${style}</style>`)}
    </head>
    <body>
      ${trusted(icons)}
      <a class="skip" href="#lessons">To the lessons</a>
      <header class="top">
        <h1>${name}</h1>
        <p class="by">${author}</p>
        ${lessons.length > 0 && [searchField('Questions, steps, maths'), foundList]}
      </header>
      <p class="since" role="status" hidden></p>
      <main>
        ${ahead(page)}
        <ol class="lessons" id="lessons">
          ${lessons.map(lessonRow)}
        </ol>
        ${lessons.length === 0 &&
        html`<p class="nothing">There is no lesson here yet. The link stays: come back to it.</p>`}
      </main>
      ${trusted(`<script>${script}</script>`)}
    </body>
  </html> `
  return `<!doctype html>\n${markup}`
}

/** What opens next, the soonest first. */
function ahead({ lessons, ahead: closed }: ClassPage): Html | null {
  const dates = [
    ...closed.map(at => ({ at, what: html`a lesson` })),
    ...lessons.flatMap(({ listing, address }) =>
      (listing?.questions ?? []).flatMap(q =>
        q.opens
          ? [
              {
                at: q.opens,
                what: html`<a href="${encodePath(address)}#${addressOf(q)}"
                  >${listing!.title}, question ${q.number}</a
                >`,
              },
            ]
          : [],
      ),
    ),
  ].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
  if (!dates.length) return null
  return html`<section class="ahead">
    <h2>What opens next</h2>
    <ul>
      ${dates.slice(0, MOST_AHEAD).map(({ at, what }) => html`<li>${moment(at)}: ${what}</li>`)}
    </ul>
  </section>`
}
const MOST_AHEAD = 12

function lessonRow({ address, published, changed, listing, title }: ClassLesson): Html {
  const to = encodePath(address)
  const row = attributes({ 'class': 'lesson-row', 'data-lesson': listing?.lesson, 'data-changed': changed })
  return html`<li${row}>
    <p class="day">${moment(published)}</p>
    <div class="about">
      <h2><a href="${to}">${title}</a> <span class="new" hidden></span></h2>
      ${listing?.part && html`<p class="part">${listing.part}</p>`}
      ${
        listing &&
        html`<ol class="strip">
          ${listing.questions.map(q => inRow(to, q))}
        </ol>`
      }
    </div>
    <p class="facts">${listing?.due && html`<span>due ${dateInWords(listing.due)}</span> `}${
      changed !== published && html`<span>changed ${moment(changed)}</span> `
    }<span class="far"></span></p>
  </li>`
}

function inRow(to: string, q: Listing['questions'][number]): Html {
  const name = `Question ${q.number}${q.title ? `, ${q.title}` : ''}${q.opens ? ', later' : ''}`
  const link = attributes({
    'href': `${to}#${addressOf(q)}`,
    'data-question': q.id,
    'data-duration': q.duration,
    'data-changed': q.changed,
    'title': q.title,
  })
  return html`<li${q.opens !== undefined && html` class="closed"`}><a${link}><span aria-hidden="true">${q.number}</span><span class="unseen">${name}</span><span class="unseen state"></span>${progressMark}</a></li>`
}
