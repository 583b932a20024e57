import type { TextPiece, Word } from './model'

/**
 * Widths of letters in thousandths of the letter size, roughly as text faces set them; only their proportions are used.
 */
const NARROW = /[ijl.,:;'|!()[\]/]/
const WIDE = /[mwMW%@—…]/
const relative = (c: string) =>
  c === ' ' || c === '\u00A0' ? 0.27 : NARROW.test(c) ? 0.3 : WIDE.test(c) ? 0.85 : c >= 'A' && c <= 'Z' ? 0.67 : 0.5

/**
 * Cuts pieces at their spaces, with the place of each word reckoned from the widths of its letters.
 * Full-width digits and letters become ordinary ones, and private and zero-width signs are left out.
 */
export function wordsOf(pieces: readonly TextPiece[]): TextPiece[] {
  const words: TextPiece[] = []
  for (const piece of pieces) {
    const text = piece.text
      .replace(/[\uFF01-\uFF5E]/g, c => String.fromCharCode(c.charCodeAt(0) - 0xfee0))
      .replace(/[\u200B-\u200F\uFEFF\u00AD]/g, '')
      .replace(/[\u2000-\u200A\u3000]/g, ' ')
    if (!text.trim()) continue
    let total = 0
    for (const c of text) total += relative(c)
    const unit = total ? piece.w / total : 0
    let x = piece.x,
      start = x,
      word = ''
    const close = () => {
      if (word) words.push({ text: word, x: start, y: piece.y, w: x - start, size: piece.size, bold: piece.bold })
      word = ''
    }
    for (const c of text) {
      if (/\s/.test(c)) close()
      else {
        if (!word) start = x
        word += c
      }
      x += relative(c) * unit
    }
    close()
  }
  return words
}

const LABEL = /^\(?[A-Za-z]{1,2}[.)]?$/

/** Joins words that touch ("1" and "." in two fonts) and gives every word its gap to the one before it. */
function joined(words: TextPiece[]): Word[] {
  const line: Word[] = []
  for (const word of words.sort((a, b) => a.x - b.x)) {
    const before = line.at(-1)
    const gap = before ? word.x - (before.x + before.w) : Infinity
    // The same word set twice, a hair apart, is how some programs make bold.
    if (before && word.text === before.text && gap < -0.6 * before.w) before.bold = true
    else if (
      before &&
      (/^[[(]\d/.test(word.text) || (word.bold && !before.bold && LABEL.test(word.text))) &&
      /[\p{L}\d.?!:)\]]$/u.test(before.text)
    )
      line.push({ ...word, gap: Math.max(gap, 0.3 * word.size) })
    else if (before?.bold && !word.bold && /^(\d{1,3}|\(?[a-z]\)?)$/.test(before.text) && /^\p{L}{2}/u.test(word.text))
      line.push({ ...word, gap: Math.max(gap, 0.7 * word.size) })
    else if (before && gap < 0.09 * Math.max(before.size, word.size) && gap > -before.w) {
      before.text += word.text
      before.w = Math.max(before.w, word.x + word.w - before.x)
      before.bold &&= word.bold
      before.size = Math.max(before.size, word.size)
    } else line.push({ ...word, gap })
  }
  return line
}

/**
 * Words on common baselines, top to bottom, each from left to right. Raised and lowered small letters go with the line
 * that they belong to.
 * @param words of one page or one column of it
 */
export function baselines(words: readonly TextPiece[]): Word[][] {
  const lines: { y: number; size: number; words: TextPiece[] }[] = []
  const sizes = words.map(w => w.size).sort((a, b) => a - b)
  const usual = sizes[Math.floor(sizes.length / 2)] ?? 10
  const large = words.filter(w => w.size > 0.8 * usual).sort((a, b) => a.y - b.y)
  for (const word of large) {
    const last = lines.at(-1)
    if (last && word.y - last.y <= 0.28 * Math.min(word.size, last.size)) {
      last.words.push(word)
      if (word.size > last.size) last.size = word.size
    } else lines.push({ y: word.y, size: word.size, words: [word] })
  }
  const small = words.filter(w => w.size <= 0.8 * usual).sort((a, b) => a.y - b.y)
  const left: TextPiece[] = []
  for (const word of small) {
    const home = lines.find(
      l =>
        Math.abs(l.y - word.y) < 0.6 * l.size &&
        l.words.some(o => word.x - (o.x + o.w) < 0.25 * o.size && o.x - (word.x + word.w) < 0.25 * o.size),
    )
    if (home) home.words.push(word)
    else left.push(word)
  }
  for (const word of left) {
    const line = lines.find(l => Math.abs(l.y - word.y) <= 0.3 * word.size && l.size <= word.size / 0.6)
    if (line) line.words.push(word)
    else lines.push({ y: word.y, size: word.size, words: [word] })
  }
  return lines.sort((a, b) => a.y - b.y).map(l => joined(l.words))
}
