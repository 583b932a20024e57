import { printedMarks } from './html'
import { printMarks, type Paper, type TrueQuestion } from './spec'
import { LANGUAGES } from './words'

const esc = (t: string) =>
  t
    .replace(/\\/g, '\\e')
    .replace(/^([.'])/, '\\&$1')
    .replace(/−/g, '\\-')
    .replace(/×/g, '\\(mu')
    .replace(/·/g, '\\(md')
    .replace(/°/g, '\\(de')
    .replace(/—/g, '\\(em')
    .replace(/’/g, '\\(cq')
    .replace(/[\u0080-\uFFFF]/g, c => `\\[u${c.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}]`)

/** The paper for groff: hanging numbers by temporary indents, marks by tabs at the right edge. */
export function asRoff(p: Paper): string {
  const out: string[] = [
    '.pl 29.7c',
    '.po 2.2c',
    `.ll ${p.columns === 2 ? '16.4c' : '16.4c'}`,
    `.ps ${p.size}`,
    `.vs ${Math.round(p.size * 1.3)}`,
    `.ft ${p.font === 'serif' ? 'TR' : 'HR'}`,
    '.nh',
    '.ad l',
  ]
  out.push(
    '.de HD',
    "'sp 1.4c",
    ...(p.header ? [`'tl '${esc(p.header)}'''`] : []),
    "'sp 0.8c",
    '..',
    '.de FO',
    "'sp 0.6c",
    ...(p.footer ? [`'tl ''${p.footer.replace(/\bn\b/, '\\\\n%').replace(/ of m| \/ m/, '')}''`] : []),
    "'bp",
    '..',
    '.wh 0 HD',
    '.wh -2c FO',
  )
  const bold = (t: string) => (p.boldNumbers ? `\\fB${esc(t)}\\fP` : esc(t))
  if (p.cover.length) {
    out.push(`.ps +6`, `\\fB${esc(p.title)}\\fP`, '.ps -6', '.sp')
    p.cover.forEach((c, i) => out.push('.br', `${i + 1}. ${esc(c)}`))
    out.push('.bp')
  }
  out.push('.ps +5', `\\fB${esc(p.title)}\\fP`, '.ps -5', '.br', 'Name ____________________', '.sp')
  const right = (indent: number) => `.ta ${(16.2 - indent).toFixed(2)}cR`
  const question = (q: TrueQuestion) => {
    const m = (v: number | null) =>
      v === null ? '' : p.markPlace === 'right' ? `\t${esc(printMarks(p, v))}` : ` ${esc(printMarks(p, v))}`
    const lead = p.hanging ? 1 : 0
    out.push('.br', `.ne ${3 + q.options.length}`, right(0))
    if (p.numbers.startsWith('word')) out.push(`\\fB${esc(q.sign)}\\fP`, '.br', `${esc(q.text)}${m(q.ownMarks)}`)
    else if (p.numbers !== 'joint')
      out.push(
        `.in ${lead}c`,
        right(lead),
        `.ti 0`,
        `${bold(q.sign)}${lead ? "\\h'|1c'" : '\\ \\ '}${esc(q.text)}${m(q.ownMarks)}`,
      )
    q.parts.forEach((part, i) =>
      out.push(
        '.br',
        `.in ${lead + 1 + part.depth}c`,
        right(lead + 1 + part.depth),
        `.ti -0.8c`,
        `${p.numbers === 'joint' ? `${esc(q.sign)}${part.label}` : esc(part.sign)}\\h'|${(lead + 1 + part.depth).toFixed(1)}c-\\n(.iu+${(lead + 1 + part.depth).toFixed(1)}c'${esc(part.text)}${m(printedMarks(q, i))}`.replace(
          /\\h'\|[^']*'/,
          '\\ \\ ',
        ),
      ),
    )
    if (q.options.length) {
      out.push('.br', `.in ${lead + 0.6}c`)
      const width = p.optionsLayout === 'across' ? 15 / q.options.length : 7
      const per = p.optionsLayout === 'across' ? q.options.length : p.optionsLayout === 'grid' ? 2 : 1
      out.push(`.ta ${Array.from({ length: per }, (_, i) => `${(width * (i + 1)).toFixed(2)}c`).join(' ')}`)
      for (let i = 0; i < q.options.length; i += per)
        out.push(
          '.br',
          q.options
            .slice(i, i + per)
            .map(
              o =>
                `${p.ticks ? "\\Z@\\D'p 8p 0 0 -8p -8p 0'@\\h'9p'" : bold(o.sign)}\\ \\ \\ ${esc(per > 2 ? o.text.slice(0, 12) : o.text.slice(0, 34))}`,
            )
            .join('\t'),
        )
    }
    out.push('.in 0')
    if (q.showTotal) out.push('.br', right(0), `\\&\t${esc(printMarks(p, q.showTotal, true))}`)
    if (p.lines && !q.options.length) out.push('.br', "\\l'14c.'", '.br', "\\l'14c.'")
    out.push('.br', `.sp ${Math.max(4, p.room / 2)}p`)
  }
  for (const s of p.sections) {
    if (s.heading) out.push('.sp 8p', '.ne 5', '.ps +2', `\\fB${esc(s.heading)}\\fP`, '.ps -2', '.br')
    if (s.note) out.push(`\\fI${esc(s.note)}\\fP`, '.br', '.sp 6p')
    s.questions.forEach(question)
  }
  const words = LANGUAGES[p.language]
  if (p.key) {
    out.push('.bp', `\\fB${esc(words.answers[p.seed % words.answers.length]!)}\\fP`, '.br', '.sp')
    p.sections
      .flatMap(s => s.questions)
      .forEach((q, i) =>
        out.push('.br', `${esc(q.sign)}\\ \\ ${q.options.length ? q.options[i % q.options.length]!.label : i * 7 + 3}`),
      )
  }
  return `${out.join('\n')}\n`
}
