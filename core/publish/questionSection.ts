import { attributes, html, trusted, type Html } from './html'
import { icon } from './icon'
import { clockTime } from './names'
import {
  addressOf,
  encodePath,
  isClosed,
  moment,
  type ClosedQuestion,
  type ListedQuestion,
  type PublishedQuestion,
} from './page'
import { stepList, transcript } from './stepList'

/** A question on the student page, and the data of its replay, which may come later in the page. */
export interface QuestionMarkup {
  section: Html
  lesson: Html | null
}

/** What needs the page's script is hidden until that runs. @param practice what is to be tried after it */
export function questionSection(q: ListedQuestion, index: number, practice: Html | null): QuestionMarkup {
  const id = `q${index + 1}`
  if (isClosed(q)) return { section: closedSection(q, id), lesson: null }
  // The data is base64: letters and digits, which are the same in markup.
  const lesson = trusted(`<script type="application/x-orthograph-lesson" data-of="${id}">${q.lesson}</script>`)
  return { section: openSection(q, id, q.hint ? null : practice), lesson }
}

const heading = (q: ListedQuestion) =>
  html`<h2 id="${addressOf(q)}"><span class="number">${q.number}</span> ${q.title}</h2>`

/** A question of which there is nothing yet, in its place: what is asked, and when it opens. */
const closedSection = (q: ClosedQuestion, id: string) =>
  html`<section
    class="closed"
    id="${id}"
    aria-labelledby="${addressOf(q)}"
    data-number="${q.number}"
    data-question="${q.id}">
    ${heading(q)}
    ${q.picture && html`<img class="asked" src="${encodePath(q.picture)}" alt="" width="960" height="540" />`}
    <div class="print">${printed(q.print)}</div>
    <p class="opens">Its solution is here from ${moment(q.opens)} on.</p>
  </section>`

function openSection(q: PublishedQuestion, id: string, practice: Html | null): Html {
  const data = attributes({
    'data-number': q.number,
    'data-question': q.id,
    'data-changed': q.changed,
    'data-places': q.places?.join(' ') || undefined,
    'data-sound': q.sound?.path,
  })
  return html`<section class="question" id="${id}" aria-labelledby="${addressOf(q)}" ${data}>
    ${heading(q)}
    ${q.hint &&
    html`<p class="hint">This is how it begins. The whole solution is here from ${moment(q.hint.fullFrom)} on.</p>`}
    <div class="lesson">
      <div class="screen">
        ${stage(q)}
        <noscript>${withoutScript(q)}</noscript>
        ${turnTools()} ${choiceOf(q, id)} ${controls(q)}
        <p class="cc" aria-hidden="true" hidden></p>
        <p class="word" role="status" hidden></p>
      </div>
      <div class="side">
        <div class="steps">
          <h3>Steps</h3>
          ${stepList(q)}
        </div>
        <p class="got" role="group" aria-label="How it went" hidden>
          <button type="button" class="have-it" aria-pressed="false">I have got it</button>
          <button type="button" class="not-yet" aria-pressed="false">Not yet</button>
        </p>
        ${practice &&
        html`<section class="beside">
          <h3>Now you</h3>
          ${practice}
        </section>`}
        ${stuck(id)} ${explain(q, id)}
      </div>
      <div class="words">
        ${askedFor(q)} ${repliesTo(q)}
        <details class="transcript">
          <summary>What is said and written</summary>
          <div class="telling">${transcript(q)}</div>
        </details>
      </div>
    </div>
  </section>`
}

/** The picture: the board, what grows on it, and what she writes herself. */
const stage = (q: PublishedQuestion) =>
  html`<div class="stage" hidden>
      <canvas class="board" role="img" aria-label="The solution of question ${q.number}, as it is written"></canvas
      ><canvas class="live" aria-hidden="true"></canvas
      ><canvas class="own" aria-label="What you write" role="img"></canvas>
      <button type="button" class="whole" hidden>Whole picture</button>
    </div>
    ${q.poster &&
    html`<img
      class="poster"
      src="${encodePath(q.poster)}"
      alt="Question ${q.number}, solved"
      width="960"
      height="540"
      loading="lazy" />`}`

/** What there is while she is asked to try, and afterwards. */
const turnTools = () =>
  html`<div class="turn" hidden>
      <p role="status"><strong>Your turn.</strong> Write on the picture, or on paper; <span class="about"></span>.</p>
      <button type="button" class="go">I have it</button><button type="button" class="show-me">Show me</button>
    </div>
    <div class="own-tools" role="group" aria-label="What you write" hidden>
      <button type="button" class="undo" aria-label="Undo">${icon('undo-2')}</button
      ><button type="button" class="redo" aria-label="Redo">${icon('redo-2')}</button
      ><button type="button" class="erase" aria-pressed="false" aria-label="Eraser">${icon('eraser')}</button
      ><button type="button" class="show">Hide mine</button
      ><button type="button" class="beside" aria-pressed="false" hidden>Beside</button
      ><button type="button" class="clear">Clear mine</button>
    </div>`

/** One row under a ruled timeline; what is used seldom is in a menu. */
function controls(q: PublishedQuestion): Html {
  const of = `question ${q.number}`
  const button = (name: string, says: string, of: Html, more: Record<string, string> = {}) =>
    html`<button type="button" class="${name}" aria-label="${says}" title="${says}" ${attributes(more)}>${of}</button>`
  return html`<div class="controls" role="group" aria-label="Question ${q.number}">
    <div class="timeline">
      ${ruler(q)}<input
        type="range"
        class="at"
        min="0"
        max="${Math.round(q.duration)}"
        value="0"
        step="10"
        aria-label="Place in ${of}" />
      <p class="name-there" aria-hidden="true" hidden></p>
    </div>
    <div class="row">
      ${button('play', `Play ${of}`, html`${icon('play')}${icon('pause')}`)}
      ${button('back-5', 'Back 5 seconds', html`${icon('rotate-ccw')}<span class="five" aria-hidden="true">5</span>`)}
      ${button('step-back', 'Step back', icon('step-back'))} ${button('step-on', 'Step on', icon('step-forward'))}
      <span class="time">${clockTime(0)} of ${clockTime(q.duration)}</span>
      <label class="pace"
        ><span class="unseen">Speed</span
        ><select class="speed"></select
      ></label>
      ${button('each', 'Stop after each step', icon('flag'), { 'aria-pressed': 'false' })}
      ${button('captions', 'Captions', icon('captions'), { 'aria-pressed': 'false' })}
      ${button('wide', 'Full screen', icon('maximize'))}
      <details class="menu more">
        <summary aria-label="More for ${of}" title="More">${icon('ellipsis')}</summary>
        <div class="sheet">
          <button type="button" class="again">This step again</button>
          <button type="button" class="slower">This step slower</button>
          <button type="button" class="follow" aria-pressed="true">Follow the ink</button>
          <button type="button" class="float" hidden>Float over other windows</button>
          <button type="button" class="link">Copy the link to this moment</button>
          ${q.video &&
          html`<a class="download" href="${encodePath(q.video.path)}" download="${q.name}">Download the video</a>`}
        </div>
      </details>
    </div>
  </div>`
}

/** The timeline's ruling: a tick where a step begins, a bar where she is asked to try. In thousandths of the length. */
function ruler(q: PublishedQuestion): Html {
  const x = (t: number) => ((1000 * t) / Math.max(1, q.duration)).toFixed(1)
  return html`<svg class="ruler" viewBox="0 0 1000 12" preserveAspectRatio="none" aria-hidden="true">
    <path class="base" d="M0 6H1000" />
    <path class="played" d="M0 6H0" />
    ${q.chapters.filter(c => c.t > 0).map(c => html`<path class="tick" d="M${x(c.t)} 1V11" />`)}${q.turns.map(
      t => html`<path class="try" d="M${x(t.t)} 0V12" />`,
    )}
  </svg>`
}

const stuck = (id: string) =>
  html`<details class="stuck">
    <summary>I am stuck here</summary>
    <p class="where"></p>
    <label for="${id}-stuck">What is not clear?</label>
    <textarea id="${id}-stuck" rows="3" maxlength="4000"></textarea>
    <label><input type="checkbox" class="with-own" checked /> with what I wrote</label>
    <p>
      <button type="button" class="send" hidden>Send it to your teacher</button>
      <button type="button" class="save">Save it as a file</button>
      <button type="button" class="copy">Copy it as text</button>
    </p>
    <p class="done" role="status"></p>
  </details>`

/** Where she explains it herself: the bare question, to write on and talk over. */
const explain = (q: PublishedQuestion, id: string) =>
  html`<details class="explain">
    <summary>Explain it yourself</summary>
    <p>Write on the question and talk, as your teacher does. What is recorded stays here until you send or save it.</p>
    <div class="stage" aria-label="Question ${q.number}, to write on" role="img"></div>
    <p class="row">
      <button type="button" class="record">Record</button>
      <button type="button" class="rest" hidden>Pause</button>
      <button type="button" class="undo" hidden>Undo</button>
      <button type="button" class="listen" hidden>Listen</button>
      <span class="at-mine">${clockTime(0)}</span>
    </p>
    <p class="row choose" hidden>
      <label for="${id}-which">Which</label>
      <select id="${id}-which" class="which"></select>
    </p>
    <p class="row after" hidden>
      <label for="${id}-by">Your name</label>
      <input id="${id}-by" class="by" maxlength="80" autocomplete="off" />
      <button type="button" class="send" hidden>Send it to your teacher</button>
      <button type="button" class="save">Save it as a file</button>
    </p>
    <p class="done" role="status"></p>
  </details>`

const printed = (print: readonly string[] = []) => print.filter(line => line.trim()).map(line => html`<p>${line}</p>`)

function askedFor({ print }: PublishedQuestion): Html | null {
  const lines = printed(print)
  if (!lines.length) return null
  return html`<details class="print">
    <summary>What is asked</summary>
    ${lines}
  </details>`
}

/** What was asked, and what the teacher answers. */
function repliesTo({ replies = [] }: PublishedQuestion): Html | null {
  if (!replies.length) return null
  return html`<section class="replies">
    <h3>Asked and answered</h3>
    ${replies.map(
      ({ t, asked, says }) =>
        html`<div class="reply">
          ${t !== null &&
          html`<button type="button" class="to-moment" data-t="${Math.round(t)}" data-to="${Math.round(t)}">
            ${clockTime(t)}
          </button>`}
          ${asked && html`<p class="asked">${asked}</p>`}
          <p>${says}</p>
        </div>`,
    )}
  </section>`
}

/** Options to choose from before she goes on; what is chosen is told when the answer is shown. */
function choiceOf({ choice, print }: PublishedQuestion, id: string): Html | null {
  if (!choice) return null
  return html`<fieldset class="choice" data-answer="${choice.answer}">
    <legend>Your choice</legend>
    ${choice.labels.map(
      label =>
        html`<label
          ><input type="radio" name="${id}-choice" value="${label}" /> ${label}<span class="unseen"
            >${optionText(print, label)}</span
          ></label
        >`,
    )}<span class="told" role="status"></span>
  </fieldset>`
}

/** What is printed behind an option's label; nothing where that is not found. */
function optionText(print: readonly string[], label: string): string {
  const escaped = label.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
  const start = new RegExp(`^\\s*\\(?${escaped}\\s*[.):\\s]\\s*(\\S.*)$`)
  for (const line of print) {
    const found = start.exec(line)
    if (found) return `: ${found[1]!.trim()}`
  }
  return ''
}

/** What there is without scripts: the video, or its sound with the steps in print. */
function withoutScript(q: PublishedQuestion): Html {
  const captions = html`<track
    kind="captions"
    src="${encodePath(`${q.base}.captions.vtt`)}"
    srclang="en"
    label="Captions" />`
  if (q.video)
    return html`<video
      controls
      playsinline
      preload="metadata"
      ${attributes({ poster: q.poster && encodePath(q.poster) })}>
      <source src="${encodePath(q.video.path)}" type="${q.video.mime}" />
      ${captions}
    </video>`
  const silent = 'Scripts are off in this browser: the ink does not write itself. The picture above shows the solution'
  if (!q.sound) return html`<p>${silent}.</p>`
  return html`<audio controls preload="metadata" src="${encodePath(q.sound.path)}"></audio>
    <p>${silent}, and what is said stands below.</p>`
}
