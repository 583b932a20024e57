import { linesOf } from './columns'
import { usualSize } from './headings'
import { answersFrom } from './leaveOut'
import type { PageText } from './model'
import { bodyWords } from './running'

/** The lines under a paper's own "Answers" heading, column by column; empty when there is none. Wide gaps are kept as two spaces. */
export function keyLines(pages: readonly PageText[]): string[] {
  const words = bodyWords(pages)
  const lines = words.flatMap((w, p) => linesOf(w, [{ x0: 0, x1: pages[p]!.width, y0: 0, y1: pages[p]!.height }], p))
  const answers = answersFrom(lines, usualSize(lines), pages)
  const own = lines.filter((_, i) => answers.isAnswer(i))
  return own.slice(1).map(line => line.words.map((w, i) => i === 0 ? w.text : `${w.gap > 0.9 * w.size ? '  ' : ' '}${w.text}`).join(''))
}
