import { clockTime, escapeHtml } from './names'
import { encodePath, isClosed, moment, type ClosedQuestion, type ListedQuestion, type PublishedQuestion } from './page'

/** A question on the student page; what needs the page's script is hidden until that runs. */
export function questionSection(q: ListedQuestion, index: number): string {
  const id = `q${index + 1}`
  return isClosed(q) ? closedSection(q, id) : openSection(q, id)
}

/** A question of which there is nothing yet, in its place. */
const closedSection = (q: ClosedQuestion, id: string) =>
  `<section class="closed" id="${id}" aria-labelledby="${id}-name">
<h2 id="${id}-name"><span class="number">${escapeHtml(q.number)}</span> ${escapeHtml(q.title)}</h2>
<p>Its solution is here from ${moment(q.opens)} on.</p>
</section>`

function openSection(q: PublishedQuestion, id: string): string {
  const print = q.print.filter(line => line.trim())
  return `<section class="question" id="${id}" aria-labelledby="${id}-name" data-number="${escapeHtml(q.number)}" data-question="${escapeHtml(q.id)}"${q.sound ? ` data-sound="${escapeHtml(q.sound.path)}"` : ''}>
<h2 id="${id}-name"><span class="number">${escapeHtml(q.number)}</span> ${escapeHtml(q.title)}</h2>
${q.hint ? `<p class="hint">This is how it begins. The whole solution is here from ${moment(q.hint.fullFrom)} on.</p>` : ''}
<div class="lesson">
<div class="screen">
<div class="stage" hidden><canvas class="board" role="img" aria-label="The solution of question ${escapeHtml(q.number)}, as it is written"></canvas><canvas class="live" aria-hidden="true"></canvas><canvas class="own" aria-label="What you write" role="img"></canvas>
<button type="button" class="whole" hidden>Whole picture</button><p class="cc" hidden></p></div>
${q.poster ? `<img class="poster" src="${escapeHtml(encodePath(q.poster))}" alt="Question ${escapeHtml(q.number)}, solved" width="960" height="540">` : ''}
<noscript>${withoutScript(q)}</noscript>
<div class="turn" role="status" hidden><p><strong>Your turn.</strong> Write on the picture, or on paper; <span class="about"></span>.</p><button type="button" class="go">Go on</button></div>
<div class="own-tools" hidden><span>Yours:</span><button type="button" class="undo">Undo</button><button type="button" class="redo">Redo</button><button type="button" class="erase" aria-pressed="false">Eraser</button><button type="button" class="show">Hide mine</button><button type="button" class="clear">Clear mine</button></div>
${choiceOf(q, id)}
<div class="bar">
<button type="button" class="play">Play</button>
<input type="range" class="at" min="0" max="${Math.round(q.duration)}" value="0" step="10" aria-label="Place in the solution of question ${escapeHtml(q.number)}">
<span class="time">${clockTime(0)} of ${clockTime(q.duration)}</span>
<label>Speed <select class="speed"></select></label>
<label><input type="checkbox" class="captions"> Captions</label>
<button type="button" class="wide">Full screen</button>
</div>
<p class="word" role="status" hidden></p>
<div class="tools">
<button type="button" class="link">Copy the link to this moment</button>
${q.video ? `<a href="${escapeHtml(encodePath(q.video.path))}" download="${escapeHtml(q.name)}">Download the video</a>` : ''}
</div>
<details class="stuck"><summary>I am stuck here</summary>
<p class="where"></p>
<label for="${id}-stuck">What is not clear?</label>
<textarea id="${id}-stuck" rows="3" maxlength="4000"></textarea>
<label><input type="checkbox" class="with-own" checked> with what I wrote</label>
<p><button type="button" class="send" hidden>Send it to your teacher</button> <button type="button" class="save">Save it as a file</button> <button type="button" class="copy">Copy it as text</button></p>
<p class="done" role="status"></p>
</details>
${explain(q, id)}
</div>
<div class="steps"><h3>Steps</h3>${steps(q)}</div>
</div>
${print.length ? `<details class="print"><summary>What is asked</summary>${print.map(line => `<p>${escapeHtml(line)}</p>`).join('')}</details>` : ''}
${repliesTo(q)}
<details class="transcript"><summary>What is said and written</summary>${transcript(q)}</details>
<script type="application/x-orthograph-lesson">${q.lesson}</script>
</section>`
}

/** What was asked, and what the teacher answers. */
function repliesTo({ replies = [] }: PublishedQuestion): string {
  if (!replies.length) return ''
  const one = ({ t, asked, says }: NonNullable<PublishedQuestion['replies']>[number]) => `<div class="reply">
${t === null ? '' : `<button type="button" class="to-moment" data-t="${Math.round(t)}" data-to="${Math.round(t)}">${clockTime(t)}</button>`}
${asked ? `<p class="asked">${escapeHtml(asked)}</p>` : ''}<p>${escapeHtml(says)}</p></div>`
  return `<section class="replies"><h3>Asked and answered</h3>${replies.map(one).join('')}</section>`
}

/** What is said, by steps, and what is typed and placed in each: all of it for who cannot see or hear it. */
function transcript(q: PublishedQuestion): string {
  const stepOf = (t: number) =>
    Math.max(
      0,
      q.chapters.findLastIndex(c => c.t <= t + 1),
    )
  const said = q.captions.map(c => ({
    step: stepOf(c.from),
    html: `<button type="button" class="said" data-t="${Math.round(c.from)}" data-to="${Math.round(c.to)}">${escapeHtml(c.text.replace(/\n/g, ' '))}</button>`,
  }))
  const words = (i: number) => said.filter(s => s.step === i).map(s => s.html)
  if (!q.chapters.length) return `<p>${words(0).join(' ')}</p>`
  return q.chapters
    .map((c, i) => {
      const written = c.also ? `<p class="written">Written: ${escapeHtml(c.also)}</p>` : ''
      return `<section><h3>${clockTime(c.t)} ${escapeHtml(c.title)}</h3><p>${words(i).join(' ')}</p>${written}</section>`
    })
    .join('')
}

/** Where she explains it herself: the bare question, to write on and talk over. */
const explain = (q: PublishedQuestion, id: string) => `<details class="explain"><summary>Explain it yourself</summary>
<p>Write on the question and talk, as your teacher does. What is recorded stays here until you save it and hand it in.</p>
<div class="stage" aria-label="Question ${escapeHtml(q.number)}, to write on" role="img"></div>
<p class="row"><button type="button" class="record">Record</button>
<button type="button" class="rest" hidden>Pause</button>
<button type="button" class="undo" hidden>Undo</button>
<button type="button" class="listen" hidden>Listen</button> <span class="at-mine">${clockTime(0)}</span></p>
<p class="row after" hidden><label for="${id}-by">Your name</label>
<input id="${id}-by" class="by" maxlength="80" autocomplete="off">
<button type="button" class="save">Save it as a file</button></p>
<p class="done" role="status"></p>
</details>`

/** The steps, those of one part together. */
function steps(q: PublishedQuestion): string {
  const groups: { part: string; items: string[] }[] = []
  q.chapters.forEach((c, i) => {
    const part = c.part ?? ''
    if (groups[groups.length - 1]?.part !== part) groups.push({ part, items: [] })
    const to = Math.round(q.chapters[i + 1]?.t ?? q.duration)
    const also = c.also ? ` data-also="${escapeHtml(c.also)}"` : ''
    groups[groups.length - 1]!.items.push(
      `<li><button type="button" data-t="${Math.round(c.t)}" data-to="${to}"${also}><span class="t">${clockTime(c.t)}</span><span>${escapeHtml(c.title)}</span></button></li>`,
    )
  })
  return groups.map(g => `${g.part ? `<h4>Part ${escapeHtml(g.part)}</h4>` : ''}<ol>${g.items.join('')}</ol>`).join('')
}

/** Options to choose from before she goes on; what is chosen is told by then. */
function choiceOf({ choice }: PublishedQuestion, id: string): string {
  if (!choice) return ''
  const one = (label: string) =>
    `<label><input type="radio" name="${id}-choice" value="${escapeHtml(label)}"> ${escapeHtml(label)}</label>`
  return `<fieldset class="choice" data-answer="${escapeHtml(choice.answer)}"><legend>Your choice</legend>${choice.labels.map(one).join('')}<span class="told" role="status"></span></fieldset>`
}

/** What there is without scripts: the video, or its sound with the steps in print. */
function withoutScript(q: PublishedQuestion): string {
  const captions = `<track kind="captions" src="${escapeHtml(encodePath(`${q.base}.captions.vtt`))}" srclang="en" label="Captions">`
  if (q.video)
    return `<video controls playsinline preload="metadata"${q.poster ? ` poster="${escapeHtml(encodePath(q.poster))}"` : ''}><source src="${escapeHtml(encodePath(q.video.path))}" type="${escapeHtml(q.video.mime)}">${captions}</video>`
  if (q.sound)
    return `<audio controls preload="metadata" src="${escapeHtml(encodePath(q.sound.path))}"></audio><p>Scripts are off in this browser: the ink does not write itself. The picture above shows the solution, and what is said stands below.</p>`
  return '<p>Scripts are off in this browser: the ink does not write itself. The picture above shows the solution.</p>'
}
