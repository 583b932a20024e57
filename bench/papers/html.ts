import { printMarks, type Paper, type TrueOption, type TruePart, type TrueQuestion } from './spec'
import { LANGUAGES } from './words'

const esc = (t: string) =>
  t
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/(\d)x\b/g, '$1<i>x</i>')

/** The paper as a page for a browser or a typesetter of HTML. */
export function asHtml(p: Paper): string {
  const words = LANGUAGES[p.language]
  const body = p.sections
    .map(
      s => `${s.heading ? `<h2>${esc(s.heading)}</h2>` : ''}${s.note ? `<p class="note">${esc(s.note)}</p>` : ''}
    ${p.drill ? `<div class="drill">${s.questions.map(q => `<div class="cell">${questionOf(p, q)}</div>`).join('')}</div>` : s.questions.map(q => questionOf(p, q)).join('\n')}`,
    )
    .join('\n')
  const cover = p.cover.length
    ? `<section class="cover"><h1>${esc(p.title)}</h1><p>Name ____________________ Class ______</p><ol>${p.cover.map(c => `<li>${esc(c)}</li>`).join('')}</ol></section>`
    : ''
  const flat = p.sections.flatMap(s => s.questions)
  const sheet = p.sheet
    ? `<section class="break"><h2>${esc(words.sheet)}</h2>${flat.map(q => `<div>${esc(q.sign)} &nbsp; ${q.options.length ? q.options.map(o => `(${o.label})`).join(' ') : '____________'}</div>`).join('')}</section>`
    : ''
  const key = p.key
    ? `<section class="break"><h2>${esc(words.answers[p.seed % words.answers.length]!)}</h2>${flat.map((q, i) => `<div>${esc(q.sign)} &nbsp; ${q.options.length ? q.options[i % q.options.length]!.label : `${i * 7 + 3} cm`}</div>`).join('')}</section>`
    : ''
  const running = (text: string) =>
    `"${text.replace(/\bn\b/, '" counter(page) "').replace(/\bm\b/, '" counter(pages) "')}"`
  return `<!doctype html><html lang="${p.language}"><meta charset="utf-8"><style>
    @page { size: A4; margin: 20mm 18mm; ${p.header ? `@top-left { content: "${p.header}"; font: 9pt sans-serif }` : ''} ${p.footer ? `@bottom-center { content: ${running(p.footer)}; font: 9pt sans-serif }` : ''} }
    body { font: ${p.size}pt/1.35 ${p.font === 'serif' ? 'Liberation Serif' : 'Liberation Sans'}, ${p.font}; margin: 0 }
    h1 { font-size: 1.6em } h2 { font-size: 1.25em; margin: 1.2em 0 .5em } .cover { page-break-after: always } .break { page-break-before: always; column-span: all }
    .q { margin: 0 0 ${8 + p.room}pt; ${p.room > 30 ? 'page-break-inside: avoid' : ''} } .q > .n { ${p.boldNumbers ? 'font-weight: bold;' : ''} ${p.hanging ? 'float: left; margin-left: -2.4em; width: 2.2em' : 'margin-right: .5em'} }
    .q.hang { padding-left: 2.4em } .word > .n { display: block; float: none; margin: 0; width: auto; font-weight: bold } .word.hang { padding-left: 0 }
    .m { float: right; margin-left: 1em } .part { margin: 3pt 0 3pt 1.6em; padding-left: 1.8em; text-indent: -1.8em } .sub { margin-left: 3.2em } .part .s { display: inline-block; width: 1.8em; text-indent: 0 }
    .across { display: grid; grid-template-columns: repeat(${p.partColumns}, 1fr) } .oa { display: flex; justify-content: space-between; margin: 4pt 10% 0 1.5em } .og { display: grid; grid-template-columns: 1fr 1fr; margin: 4pt 0 0 1.5em } .od { margin: 4pt 0 0 1.5em }
    .o { margin: 2pt 0 } .o b { font-weight: ${p.boldNumbers ? 'bold' : 'normal'}; margin-right: .8em } .t { display: inline-block; width: 9pt; height: 9pt; border: 1pt solid #222; margin-right: 6pt } .ring { border-radius: 50% }
    .cols { columns: ${p.columns}; column-gap: 24pt } .drill { display: grid; grid-template-columns: repeat(${p.drill || 1}, 1fr); gap: 26pt 18pt } .line { border-bottom: .5pt dotted #555; height: 20pt }
  </style><body>${cover}<h1>${esc(p.title)}</h1><p>${esc('Name ______________   Date ________')}</p><div class="${p.columns === 2 ? 'cols' : ''}">${body}</div>${sheet}${key}</body></html>`
}

function questionOf(p: Paper, q: TrueQuestion): string {
  const word = p.numbers.startsWith('word'),
    joint = p.numbers === 'joint'
  const m = (marks: number | null, total = false) =>
    marks === null
      ? ''
      : p.markPlace === 'right' || total
        ? `<span class="m">${printMarks(p, marks, total)}</span>`
        : ` ${printMarks(p, marks)}`
  const across = p.partsAcross && q.parts.length > 2 && !q.parts.some(x => x.depth) && !joint
  const parts = q.parts.map((x, i) => partOf(x, joint ? `${q.sign}${x.label}` : x.sign, m(printedMarks(q, i)))).join('')
  return `<div class="q ${p.hanging ? 'hang' : ''} ${word ? 'word' : ''}">${joint ? '' : `<span class="n">${q.sign}</span>`}${p.markPlace === 'right' ? m(q.ownMarks) : ''}${esc(q.text)}${p.markPlace === 'right' ? '' : m(q.ownMarks)}
    ${parts ? `<div class="${across ? 'across' : ''}">${parts}</div>` : ''}${optionsOf(p, q.options)}${q.showTotal ? `<div>${m(q.showTotal, true)}&nbsp;</div>` : ''}${p.lines && !q.options.length && !p.drill ? '<div class="line"></div><div class="line"></div>' : ''}</div>`
}

/** A part with sub-parts prints no marks of its own. */
export const printedMarks = (q: TrueQuestion, i: number) =>
  q.parts[i]!.depth === 0 && q.parts[i + 1]?.depth === 1 ? null : q.parts[i]!.marks

const partOf = (x: TruePart, sign: string, marks: string) =>
  `<div class="part ${x.depth ? 'sub' : ''}"><span class="s">${sign}</span>${esc(x.text)}${marks}</div>`

function optionsOf(p: Paper, options: readonly TrueOption[]): string {
  if (!options.length) return ''
  const one = (o: TrueOption) =>
    `<div class="o">${p.ticks ? `<span class="t ${p.ticks}"></span>` : `<b>${o.sign}</b>`}${esc(o.text)}</div>`
  return `<div class="${{ across: 'oa', down: 'od', grid: 'og' }[p.optionsLayout]}">${options.map(one).join('')}</div>`
}
