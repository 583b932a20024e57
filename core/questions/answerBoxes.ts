import type { Outline, PageText, TextPiece, Line } from './model'

/** The sign that stands for a box or circle to be filled in. */
export const TICK = '□'
const TICK_SIGNS = /^[☐□○◯❏❑❍❐❒⬜▢◻⚪⭘\u25A2\u{1F78E}]+$/u

/**
 * Makes the small outlines drawn beside words readable: an outline round a single letter makes "(A)", an empty one
 * before a word makes a box sign.
 * Pages full of outlines (squared paper, tables) are left alone.
 */
export function withTicks(page: PageText): PageText {
  const pieces = page.pieces.map(p => (TICK_SIGNS.test(p.text.trim()) ? { ...p, text: TICK } : p))
  const outlines = page.outlines.filter(o => !touchesOthers(o, page.outlines))
  if (!outlines.length || outlines.length > 200) return { ...page, pieces }
  const boxes: TextPiece[] = []
  for (const o of outlines) {
    const inside = pieces.filter(p => p.x > o.x - 2 && p.x + p.w < o.x + o.w + 2 && p.y > o.y && p.y < o.y + o.h + 1)
    if (inside.length === 1 && /^[A-Za-z]$/.test(inside[0]!.text.trim())) {
      const at = pieces.indexOf(inside[0]!)
      pieces[at] = { ...inside[0]!, text: `(${inside[0]!.text.trim()})`, x: o.x, w: o.w }
    } else if (!inside.length) {
      const after = pieces.some(
        p =>
          p.x - (o.x + o.w) > -1 &&
          p.x - (o.x + o.w) < 1.6 * p.size &&
          p.y > o.y + 0.2 * o.h &&
          p.y < o.y + 1.4 * o.h &&
          p.text.trim(),
      )
      const before = pieces.filter(p => p.x < o.x && Math.abs(p.y - (o.y + 0.8 * o.h)) < 0.6 * p.size)
      if (after)
        boxes.push({
          text: TICK,
          x: o.x,
          y: before[0]?.y ?? o.y + 0.82 * o.h,
          w: o.w,
          size: Math.min(o.h, 11),
          bold: false,
        })
    }
  }
  return { ...page, pieces: [...pieces, ...boxes] }
}

const touchesOthers = (o: Outline, all: readonly Outline[]) =>
  all.some(
    p =>
      p !== o &&
      ((Math.abs(p.x - (o.x + o.w)) < 1 && Math.abs(p.y - o.y) < 1) ||
        (Math.abs(p.x + p.w - o.x) < 1 && Math.abs(p.y - o.y) < 1)),
  )

const isTick = (text: string) => text === TICK || TICK_SIGNS.test(text)

/** Choices marked only by boxes: the words behind each box sign, up to the next. */
export function tickedChoices(lines: readonly Line[]): { text: string; line: Line }[] {
  const found: { text: string; line: Line }[] = []
  for (const line of lines) {
    const ticks = line.words.flatMap((w, i) => (isTick(w.text) ? [i] : []))
    ticks.forEach((i, k) => {
      const text = line.words
        .slice(i + 1, ticks[k + 1])
        .map(w => w.text)
        .join(' ')
        .trim()
      if (text) found.push({ text, line })
    })
  }
  return found
}

/** Lines without their box signs, so that a letter behind a box is read as opening its own words. */
export function withoutTicks(lines: readonly Line[]): Line[] {
  return lines.flatMap(line => {
    if (!line.words.some(w => isTick(w.text))) return [line]
    const words = line.words.flatMap((w, i) =>
      isTick(w.text) ? [] : [i > 0 && isTick(line.words[i - 1]!.text) ? { ...w, gap: Math.max(w.gap, 2 * w.size) } : w],
    )
    return words.length ? [{ ...line, words, x: words[0]!.x, text: words.map(w => w.text).join(' ') }] : []
  })
}
