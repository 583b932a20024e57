import { printedMarks } from './html'
import { printMarks, type Paper, type TrueQuestion } from './spec'
import { LANGUAGES } from './words'

const esc = (t: string) =>
  t
    .replace(/[&%$#_{}]/g, c => `\\${c}`)
    .replace(/−/g, '$-$')
    .replace(/×/g, '$\\times$')
    .replace(/·/g, '$\\cdot$')
    .replace(/°/g, '\\textdegree{}')
    .replace(/(\d)x\b/g, '$1$x$')
    .replace(/¿/g, '?`')
    .replace(/≈/g, '$\\approx$')

/** The paper for LaTeX, with plain list-like boxes so that every dress of number can be set. */
export function asLatex(p: Paper): string {
  const words = LANGUAGES[p.language]
  const out: string[] = [
    `\\documentclass[${Math.min(12, Math.max(10, p.size))}pt${p.columns === 2 ? ',twocolumn' : ''}]{article}`,
    '\\usepackage[utf8]{inputenc}\\usepackage[T1]{fontenc}\\usepackage{lmodern}\\usepackage{textcomp}\\usepackage[a4paper,margin=2cm]{geometry}\\usepackage{amssymb}',
    p.font === 'serif' ? '' : '\\renewcommand{\\familydefault}{\\sfdefault}',
    '\\setlength{\\parindent}{0pt}',
    p.footer ? '\\pagestyle{plain}' : '\\pagestyle{empty}',
    '\\begin{document}',
  ]
  if (p.cover.length)
    out.push(
      `{\\LARGE ${esc(p.title)}}`,
      '\\begin{enumerate}',
      ...p.cover.map(c => `\\item ${esc(c)}`),
      '\\end{enumerate}',
      '\\newpage',
    )
  out.push(`{\\Large\\bfseries ${esc(p.title)}}\\\\[4pt] Name \\rule{5cm}{0.4pt}\\par\\bigskip`)
  const m = (v: number | null, total = false) =>
    v === null
      ? ''
      : p.markPlace === 'right' || total
        ? `\\hfill ${esc(printMarks(p, v, total))}`
        : ` ${esc(printMarks(p, v))}`
  const question = (q: TrueQuestion) => {
    const s = p.boldNumbers ? `\\textbf{${esc(q.sign)}}` : esc(q.sign)
    if (p.numbers.startsWith('word')) out.push(`\\par\\textbf{${esc(q.sign)}}\\par ${esc(q.text)}${m(q.ownMarks)}`)
    else if (p.numbers !== 'joint')
      out.push(
        p.hanging
          ? `\\par\\hangindent=2.8em\\hangafter=1\\makebox[2.8em][l]{${s}}${esc(q.text)}${m(q.ownMarks)}`
          : `\\par ${s}\\ ${esc(q.text)}${m(q.ownMarks)}`,
      )
    q.parts.forEach((x, i) =>
      out.push(
        `\\par\\hspace*{${2 + 2 * x.depth}em}${p.numbers === 'joint' ? esc(q.sign) + x.label : esc(x.sign)} ${esc(x.text)}${m(printedMarks(q, i))}`,
      ),
    )
    if (q.options.length) {
      const per =
        p.optionsLayout === 'across' && p.columns === 1 ? q.options.length : p.optionsLayout === 'grid' ? 2 : 1
      for (let i = 0; i < q.options.length; i += per)
        out.push(
          `\\par\\hspace*{2em}${q.options
            .slice(i, i + per)
            .map(
              o =>
                `\\makebox[${(0.86 / per).toFixed(2)}\\linewidth][l]{${p.ticks ? '$\\square$' : esc(o.sign)}~~${esc(per > 2 ? o.text.slice(0, 16) : o.text)}}`,
            )
            .join('')}`,
        )
    }
    if (q.showTotal) out.push(`\\par\\mbox{}${m(q.showTotal, true)}`)
    if (p.lines && !q.options.length) out.push('\\par\\dotfill\\par\\dotfill')
    out.push(`\\par\\vspace{${6 + p.room / 2}pt}`)
  }
  for (const s of p.sections) {
    if (s.heading) out.push(`\\section*{${esc(s.heading)}}`)
    if (s.note) out.push(`\\textit{${esc(s.note)}}\\par\\medskip`)
    s.questions.forEach(question)
  }
  if (p.key) {
    out.push('\\newpage', `\\section*{${esc(words.answers[p.seed % words.answers.length]!)}}`)
    p.sections
      .flatMap(s => s.questions)
      .forEach((q, i) =>
        out.push(`\\par ${esc(q.sign)}\\quad ${q.options.length ? q.options[i % q.options.length]!.label : i * 7 + 3}`),
      )
  }
  out.push('\\end{document}')
  return out.join('\n')
}
