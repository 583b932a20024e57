/** One cue: shown from `from` to `to`, ms. */
export interface Cue {
  from: number
  to: number
  text: string
}

/** Most characters in a line of a caption, and most lines (broadcasters' guidance). */
export const LINE_LENGTH = 40
const MOST_LINES = 2

/** `hh:mm:ss.ttt`, as WebVTT wants it. @param ms whole or fractional milliseconds */
export function vttTime(ms: number): string {
  const t = Math.max(0, Math.round(ms))
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0')
  return `${two(t / 3_600_000)}:${two((t / 60_000) % 60)}:${two((t / 1000) % 60)}.${String(t % 1000).padStart(3, '0')}`
}

/** Text that cannot end a cue, open a tag or be taken for an arrow (WebVTT, cue text). */
export function escapeCue(text: string): string {
  return (
    text
      .replace(/&/g, '&amp;')
      .replace(/</g, '&lt;')
      .replace(/>/g, '&gt;')
      .replace(/\r\n?|\u2028|\u2029/g, '\n')
      .replace(/\n{2,}/g, '\n')
      // eslint-disable-next-line no-control-regex -- control characters have no place in a text file
      .replace(/[\u0000-\u0009\u000B-\u001F\u007F]/g, ' ')
      .trim()
  )
}

/** A WebVTT file of these cues; cues without text or length are left out. */
export function writeVtt(cues: readonly Cue[]): string {
  const blocks = cues
    .filter(c => c.to > c.from && escapeCue(c.text))
    .map(c => `${vttTime(c.from)} --> ${vttTime(c.to)}\n${escapeCue(c.text)}`)
  return ['WEBVTT', ...blocks].join('\n\n') + '\n'
}

/** The same cues as SubRip (SRT) has them: numbered, with commas, its text as it is. */
export function writeSrt(cues: readonly Cue[]): string {
  const time = (ms: number) => vttTime(ms).replace('.', ',')
  const plain = (text: string) => escapeCue(text).replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&')
  return cues
    .filter(c => c.to > c.from && escapeCue(c.text))
    .map((c, i) => `${i + 1}\n${time(c.from)} --> ${time(c.to)}\n${plain(c.text)}\n`)
    .join('\n')
}

/** Chapters as cues: each lasts until the next begins; a title is one line. */
export function chapterCues(chapters: readonly { t: number; title: string }[], duration: number): Cue[] {
  return chapters.map((c, i) => ({ from: c.t, to: chapters[i + 1]?.t ?? duration, text: c.title.replace(/\s+/g, ' ') }))
}

/**
 * Breaks words into cues of at most two lines, at the ends of phrases where that can be, and never within a number with
 * its unit; they are spread over a stretch by their length.
 * @param from start of the stretch, ms; @param to its end, ms
 */
export function spreadWords(words: string, from: number, to: number): Cue[] {
  const texts = cueTexts(held(words.replace(/\s+/g, ' ').trim()))
  if (to <= from) return []
  const total = texts.reduce((sum, x) => sum + x.length, 0)
  let seen = 0
  return texts.map(text => {
    const start = from + Math.round(((to - from) * seen) / total)
    seen += text.length
    return { from: start, to: from + Math.round(((to - from) * seen) / total), text: text.replaceAll(HELD, ' ') }
  })
}

/** Stands for a space at which no line is broken. */
const HELD = '\u00a0'
/** Keeps the groups of a number together, and a number with a unit of up to four letters. */
const held = (text: string) =>
  text
    .replace(/(?<=\d) (?=\d{3}(?!\d))/g, HELD)
    .replace(/(?<=\d) (?=(?:\p{L}{1,4}(?:\/\p{L}{1,4})?|%|°C?)(?:[²³.,;:!?)]|\s|$))/gu, HELD)
    .replace(/(?<=^| )([-−+±≈=×÷<>]) (?=\d)/g, `$1${HELD}`)

/** Texts of cues, in their lines: phrases that fit into one cue together are in one, long ones are broken evenly. */
function cueTexts(text: string): string[] {
  const cues: string[] = []
  let cue = ''
  const close = () => {
    if (cue) cues.push(evenly(cue).join('\n'))
    cue = ''
  }
  for (const phrase of text.split(/(?<=[.!?;:,…]) /).filter(Boolean)) {
    const joined = cue ? `${cue} ${phrase}` : phrase
    if (fits(joined)) cue = joined
    else {
      close()
      const lines = fits(phrase) ? [] : evenly(phrase)
      // What is left of a long phrase goes on with the next one.
      while (lines.length > MOST_LINES) cues.push(lines.splice(0, MOST_LINES).join('\n'))
      cue = lines.join(' ') || phrase
    }
    // A sentence that fills a line ends its cue.
    if (/[.!?…]$/.test(cue) && cue.length > LINE_LENGTH) close()
  }
  close()
  return cues
}
const fits = (text: string) => wrap(text, LINE_LENGTH).length <= MOST_LINES

/** Lines as even as they can be without needing more cues, so that no cue holds a word or two. */
function evenly(text: string): string[] {
  const lines = wrap(text, LINE_LENGTH)
  if (lines.length < 2) return lines
  const most = MOST_LINES * Math.ceil(lines.length / MOST_LINES)
  const longest = Math.max(0, ...text.split(' ').map(w => w.length))
  for (let width = Math.max(longest, Math.ceil(text.length / most)); width < LINE_LENGTH; width++) {
    const even = wrap(text, width)
    if (even.length <= most) return even
  }
  return lines
}

/** Greedy line breaks at spaces; a word longer than a line is broken. */
function wrap(text: string, width: number): string[] {
  const lines: string[] = []
  for (const word of text.split(' ').filter(Boolean)) {
    const last = lines[lines.length - 1]
    if (last !== undefined && last.length + 1 + word.length <= width) lines[lines.length - 1] = `${last} ${word}`
    else for (let i = 0; i < word.length; i += width) lines.push(word.slice(i, i + width))
  }
  return lines
}
