/** Precision and recall of the question finder on typeset papers, and its time a page. */
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { findQuestions } from '../core/questions'
import { asJson, pageTexts } from '../scripts/pdfText'
import { makePapers } from './papers/make'
import { score, type Score } from './papers/score'

/** @param count papers to make, seeds 1…count @param talk prints what was wrong, paper by paper */
export async function benchQuestions(count = 160, talk = false) {
  const truths = await makePapers(
    process.env.PAPERS ?? join(tmpdir(), 'orthograph-papers'),
    Array.from({ length: count }, (_, i) => i + 1),
  )
  const total: Score = {
    truth: 0,
    found: 0,
    said: 0,
    parts: [0, 0],
    falseParts: 0,
    marks: [0, 0],
    options: [0, 0],
    sure: [0, 0],
    wrong: [],
  }
  const times: number[] = []
  for (const { file, paper } of truths) {
    const pages = await pageTexts(file)
    const from = performance.now()
    const found = findQuestions(pages)
    times.push((performance.now() - from) / pages.length)
    const s = score(paper, asJson(file, found))
    total.truth += s.truth
    total.found += s.found
    total.said += s.said
    total.falseParts += s.falseParts
    for (const k of ['parts', 'marks', 'options', 'sure'] as const) {
      total[k][0] += s[k][0]
      total[k][1] += s[k][1]
    }
    if (talk && s.wrong.length)
      console.log(
        `${file} [${paper.numbers} ${paper.markStyle} ${paper.columns}col ${paper.optionsLayout}${paper.drill ? ' drill' : ''}]\n   ${s.wrong.slice(0, 12).join('\n   ')}`,
      )
  }
  const percent = (a: number, b: number) => `${((100 * a) / Math.max(1, b)).toFixed(1)} %`
  times.sort((a, b) => a - b)
  return {
    papers: truths.length,
    questions: percent(total.found, total.truth),
    false: percent(total.said - total.found, total.said),
    parts: percent(...total.parts),
    falseParts: total.falseParts,
    marks: percent(...total.marks),
    options: percent(...total.options),
    sure: percent(...total.sure),
    saidSure: percent(total.sure[1], total.said),
    medianMsAPage: times[Math.floor(times.length / 2)],
    slowestMsAPage: times.at(-1),
  }
}

if (process.argv[1]?.endsWith('questions.ts') && process.argv[1].includes('bench'))
  console.log(await benchQuestions(Number(process.argv[2] ?? 160), process.argv.includes('--talk')))
