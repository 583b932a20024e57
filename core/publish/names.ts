import type { Question } from '../folio/model'
import { cutTo, MOST_NAME_BYTES } from '../folio/text'

/**
 * A file name that every file system and web host takes: letters of any script, digits, dots inside, hyphens; never
 * empty, never a device name, at most 200 bytes and never cut inside a character.
 */
export function fileName(text: string, otherwise = 'untitled'): string {
  const plain = text
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}.]+/gu, '-')
    .replace(/\.{2,}/g, '.')
    .replace(/^[-.]+|[-.]+$/g, '')
  const short = cutTo(plain, MOST_NAME_BYTES).replace(/[-.]+$/, '')
  if (!short) return otherwise
  return /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i.test(short) ? `${short}-file` : short
}

/** Base names for the files of each question, unlike each other whatever the teacher called them. */
export function questionFileNames(
  questions: readonly Pick<Question, 'id' | 'number' | 'title'>[],
): Map<string, string> {
  const used = new Set<string>()
  return new Map(
    questions.map(q => {
      const base = fileName(`${q.number.padStart(2, '0')}-${q.title}`, 'question')
      let name = base
      for (let i = 2; used.has(name.toLowerCase()); i++) name = `${base}-${i}`
      used.add(name.toLowerCase())
      return [q.id, name]
    }),
  )
}

/** Text without what neither HTML nor XML may hold. */
export const noControls = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are meant
  text.replace(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g, ' ').replace(/\p{Surrogate}/gu, '\uFFFD')

/** Text made safe for the content and the attributes of HTML and XML. */
export const escapeHtml = (text: string): string =>
  noControls(text)
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')
    .replace(/'/g, '&#39;')

/** "1:05" or "1:02:07". @param ms milliseconds */
export function clockTime(ms: number): string {
  const s = Math.max(0, Math.floor(ms / 1000))
  const two = (v: number) => String(v).padStart(2, '0')
  return s >= 3600
    ? `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`
    : `${Math.floor(s / 60)}:${two(s % 60)}`
}

/** "27 Nov 2026, 16:54", in this machine's own time. @param at ISO, or ms since 1970 */
export const dateAndTime = (at: string | number): string =>
  new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })

/** "27 Nov 2026", in this machine's own time. @param at ISO, or ms since 1970 */
export const dayOf = (at: string | number): string => new Date(at).toLocaleDateString('en-GB', { dateStyle: 'medium' })

/** "1.4 MB"; below one, with two decimals. */
export const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e6 ? 2 : 1)} MB`

/** How much sharper the page has to be drawn because students go closer to it. */
export function nearestLook(events: readonly { type: string; box?: unknown }[]): number {
  return events.some(e => e.type === 'look' && e.box) ? 2.5 : 1
}
