import type { Plan } from '../folio/model'
import { html, type Html } from './html'
import { icon } from './icon'
import { clockTime } from './names'
import { addressOf, encodePath, isClosed, moment, type ListedQuestion, type PublishedFolio } from './page'

/** The line at the top (title, questions, search) and what is folded away in it. */
export const pageHead = (folio: PublishedFolio, practice: Plan['next']): Html =>
  html`<header class="top">
      <h1>${backTo(folio)}${folio.title}</h1>
      <nav class="strip" aria-label="Questions">
        <ol>
          ${folio.questions.map(inStrip)}${asked(practice).length > 0 &&
          html`<li>
            <a href="#practice" data-of="practice">practice</a>
          </li>`}
        </ol>
      </nav>
      ${searchField('What is said, written, printed')}
      <details class="menu" id="about">
        <summary aria-label="About this lesson">${icon('ellipsis')}</summary>
        ${about(folio)}
      </details>
      ${foundList}
    </header>
    <p class="since" role="status" hidden></p>
    <p class="greeting">
      <button type="button" id="go-on" hidden></button>
      <span id="kept-word" role="status" hidden></span>
    </p>`

/** Back to all lessons of the course, where they have a page. */
const backTo = ({ classPage }: PublishedFolio) =>
  classPage &&
  html`<a class="back" href="${classPage.address}" title="${classPage.name}, all lessons"
    >${icon('chevron-left')}<span class="unseen">${classPage.name}, all lessons</span></a
  >`

/** A question in the strip: its number, and how far this student is with it. */
function inStrip(q: ListedQuestion, i: number): Html {
  const closed = isClosed(q)
  const name = `Question ${q.number}${q.title ? `, ${q.title}` : ''}`
  return html`<li${closed && html` class="closed"`}><a href="#${addressOf(q)}" data-of="q${i + 1}" title="${q.title}"><span aria-hidden="true">${q.number}</span><span class="unseen">${name}</span><span class="unseen state">${closed && ', later'}</span>${progressMark}</a></li>`
}

/** The ink below a question's number: how far this student is with it; the page's script shows a half or the whole. */
export const progressMark = html`<svg class="mark" viewBox="0 0 24 8" aria-hidden="true">
  <path class="half" d="M3 5 L12 5" />
  <path class="whole" d="M3 4 L8 7 L21 1" />
</svg>`

/** The field to search with. @param within what is searched, in a few words */
export const searchField = (within: string): Html =>
  html`<form class="find" role="search">
    <label for="find">${icon('search')}<span class="unseen">Search</span></label>
    <input id="find" type="search" autocomplete="off" placeholder="${within}" />
  </form>`
/** What the search finds. */
export const foundList = html`<div class="found">
  <p id="found" role="status"></p>
  <ol id="hits" hidden></ol>
</div>`

/** What is read once: course, dates, what to bring, worksheet; and what she chooses for the whole page. */
function about(folio: PublishedFolio): Html {
  const { plan, questions } = folio
  const length = questions.reduce((sum, q) => sum + (isClosed(q) ? 0 : q.duration), 0)
  const facts: [name: string, value: string | Html][] = [
    ['Course', folio.course],
    ['Lesson', plan.lesson],
    ['Due', plan.due && dateInWords(plan.due)],
    ['Bring', plan.bring],
    ['Made by', folio.author],
    ['Questions', `${questions.length}, ${clockTime(length)}`],
    ['Changed', folio.changed ? moment(folio.changed) : ''],
  ]
  return html`<div class="sheet">
    <dl>
      ${facts
        .filter(([, value]) => value)
        .map(
          ([name, value]) =>
            html`<div>
              <dt>${name}</dt>
              <dd>${value}</dd>
            </div>`,
        )}
    </dl>
    ${folio.skipped.length > 0 &&
    html`<p class="skipped">
      Not assigned: ${folio.skipped.map(s => `${s.name}${s.why ? ` (${s.why})` : ''}`).join('; ')}
    </p>`}
    <ul class="files">
      ${folio.worksheets.map(
        w =>
          html`<li>
            <a class="worksheet" href="${encodePath(w.path)}" download>Worksheet: ${w.name}</a>
          </li>`,
      )}${folio.calendar &&
      html`<li>
        <a class="dates" href="${encodePath(folio.calendar)}" download="dates.ics">Dates for your calendar</a>
      </li>`}${folio.feed && html`<li><a href="${folio.feed}">These solutions as a feed (RSS)</a></li>`}
    </ul>
    <p class="chosen">
      <label for="theme">Light</label>
      <select id="theme">
        <option value="auto">as this device</option>
        <option value="light">light</option>
        <option value="dark">dark</option>
      </select>
      <button type="button" id="show-all" aria-pressed="false">Show all of it</button>
    </p>
    <details class="keys">
      <summary>Keys</summary>
      <dl>
        ${KEYS.map(
          ([key, does]) =>
            html`<div>
              <dt><kbd>${key}</kbd></dt>
              <dd>${does}</dd>
            </div>`,
        )}
      </dl>
    </details>
    <p class="keep" hidden><button type="button"></button> <span role="status"></span></p>
    <section class="mine" aria-label="Yours">
      <p>What you write, answer and choose here stays in this browser.</p>
      <button type="button" id="save-mine">Save it as a file</button>
      <button type="button" id="clear-mine">Clear it</button>
    </section>
  </div>`
}

const KEYS = [
  ['Space', 'play, pause'],
  ['← →', '5 seconds back, on'],
  ['Shift ← →', 'a step back, on'],
  ['S', 'stop after each step'],
  ['C', 'captions'],
  ['F', 'full screen'],
  ['1 – 9', 'a question'],
  ['/', 'search'],
  ['?', 'these keys'],
] as const

/** Of practice questions, those that say something. */
const asked = (next: Plan['next']) => next.filter(n => n.text.trim())

/** Questions to be tried alone, with hints and answers. */
export function practiceSection(next: Plan['next']): Html | null {
  const list = practiceList(next)
  if (!list) return null
  return html`<section class="practice" id="practice" aria-labelledby="practice-name">
    <h2 id="practice-name">What to do next</h2>
    ${list}
  </section>`
}

/** Practice questions as a list; null where there are none. */
export function practiceList(next: Plan['next']): Html | null {
  const items = asked(next)
  if (!items.length) return null
  return html`<ol class="practice-list">
    ${items.map(practiceItem)}
  </ol>`
}

const practiceItem = ({ id, text, answer, hint }: Plan['next'][number]) =>
  html`<li>
    <p>${text}</p>
    ${answer.trim() &&
    html`<form data-answer="${answer}" data-practice="${id}">
        <label for="own-${id}">Your answer</label>
        <input id="own-${id}" autocomplete="off" maxlength="500" />
        <button type="submit">Check</button>
        <span class="says" role="status"></span>
      </form>
      ${hint.trim() &&
      html`<details>
        <summary>A hint</summary>
        <p>${hint}</p>
      </details>`}
      <details class="answer">
        <summary>The answer</summary>
        <p>${answer}</p>
      </details>`}
  </li>`

/** Addresses that a link may lead to: the web, mail, another lesson of the same site. */
const LINKABLE = /^(https?:\/\/|mailto:|\.\.\/)/i

/** Related lessons, below everything. */
export function pageFooter({ plan }: PublishedFolio): Html | null {
  const related = plan.related.filter(r => r.title.trim() || r.address.trim())
  if (!related.length) return null
  return html`<footer>
    <section class="related">
      <h2>Related lessons</h2>
      <ul>
        ${related.map(r => {
          const [name, address] = [r.title.trim() || r.address.trim(), r.address.trim()]
          return html`<li>
            ${LINKABLE.test(address) ? html`<a href="${address}" rel="noreferrer">${name}</a>` : name}
          </li>`
        })}
      </ul>
    </section>
  </footer>`
}

/** "2026-12-04" → "4 December 2026"; anything else as it is. */
export function dateInWords(date: string): string {
  const [y, m, d] = date.split('-').map(Number)
  if (!y || !m || !d) return date
  return new Date(Date.UTC(y, m - 1, d)).toLocaleDateString('en-GB', { dateStyle: 'long', timeZone: 'UTC' })
}
