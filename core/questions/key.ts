import { linesOf } from './columns'
import { usualSize } from './headings'
import { answersFrom } from './leaveOut'
import type { PageText } from './model'
import { bodyWords } from './running'

/** Pages (by index) on which a paper's own answers stand, wholly or in part. */
export function keyPages(pages: readonly PageText[]): Set<number> {
  const { lines, answers } = answersOn(pages)
  return new Set([...answers.pages, ...lines.filter((_, i) => answers.isAnswer(i)).map(l => l.page)])
}

function answersOn(pages: readonly PageText[]) {
  const words = bodyWords(pages)
  const lines = words.flatMap((w, p) => linesOf(w, [{ x0: 0, x1: pages[p]!.width, y0: 0, y1: pages[p]!.height }], p))
  return { lines, answers: answersFrom(lines, usualSize(lines), pages) }
}

/**
 * The lines under a paper's own "Answers" heading, column by column; empty when there is none. Wide gaps are kept as
 * two spaces.
 */
export function keyLines(pages: readonly PageText[]): string[] {
  const { lines, answers } = answersOn(pages)
  const own = lines.filter((_, i) => answers.isAnswer(i))
  return own
    .slice(1)
    .map(line =>
      line.words.map((w, i) => (i === 0 ? w.text : `${w.gap > 0.9 * w.size ? '  ' : ' '}${w.text}`)).join(''),
    )
}
