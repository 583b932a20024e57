import type { Folio } from '../folio/model'
import { lineageOf } from './folioFile'

/** A line holds this many bytes at most; what is longer goes on in the next (RFC 5545, 3.1). */
const MOST_BYTES = 75

/**
 * Due date and releases of a folio as a calendar (iCalendar, RFC 5545); null where there is none. Moments are in UTC, so
 * that every calendar shows them in its own time, whatever its clocks do; a due date is a whole day anywhere.
 * @param at when it was made, ISO; what is changed later carries the same names, so that a calendar brings it up to date
 */
export function calendarOf(folio: Folio, link: string, at: string): string | null {
  const { plan, title } = folio
  const events: string[][] = []
  const stamp = `DTSTAMP:${moment(at)}`
  const event = (name: string, ...lines: string[]) =>
    events.push(['BEGIN:VEVENT', `UID:${name}@${host(link)}`, stamp, ...lines, 'END:VEVENT'])
  const about = link ? [`URL:${link}`] : []
  if (isDate(plan.due)) {
    const day = plan.due.replaceAll('-', '')
    event(
      `${lineageOf(folio)}-due`,
      `DTSTART;VALUE=DATE:${day}`,
      `SUMMARY:${text(`Due: ${title}`)}`,
      ...(plan.bring ? [`DESCRIPTION:${text(`Bring: ${plan.bring}`)}`] : []),
      ...about,
    )
  }
  for (const q of folio.questions) {
    if (!q.ledger) continue
    const { hint, hintFrom, fullFrom } = q.release ?? {}
    const named = `${title}, question ${q.number}`
    if (hint?.length && hintFrom)
      event(`${q.id}-hint`, `DTSTART:${moment(hintFrom)}`, `SUMMARY:${text(`${named}: a hint`)}`, ...about)
    if (fullFrom)
      event(`${q.id}-full`, `DTSTART:${moment(fullFrom)}`, `SUMMARY:${text(`${named}: the solution`)}`, ...about)
  }
  if (!events.length) return null
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Orthograph//Folio//EN',
    `X-WR-CALNAME:${text(title)}`,
    ...events.flat(),
    'END:VCALENDAR',
  ]
  return lines.map(folded).join('\r\n') + '\r\n'
}

/** "20261204T073000Z" */
const moment = (iso: string) => new Date(iso).toISOString().replace(/[-:]|\.\d+/g, '')
const host = (link: string) => /^https?:\/\/([^/:]+)/.exec(link)?.[1] ?? 'folio'
const isDate = (due: string) => /^\d{4}-\d{2}-\d{2}$/.test(due) && !Number.isNaN(Date.parse(due))

/** RFC 5545, 3.3.11; what no line may hold goes as a space. */
const text = (value: string) =>
  value
    .replace(/\\/g, '\\\\')
    .replace(/[;,]/g, c => `\\${c}`)
    .replace(/\r\n|\r|\n/g, '\\n')
    // eslint-disable-next-line no-control-regex -- these are not allowed
    .replace(/[\u0000-\u0008\u000B-\u001F\u007F]/g, ' ')

function folded(line: string): string {
  const out: string[] = []
  let part = '',
    bytes = 0
  for (const letter of line) {
    const size = new TextEncoder().encode(letter).length
    if (bytes + size > MOST_BYTES) {
      out.push(part)
      // The space that begins the next line counts.
      part = ' '
      bytes = 1
    }
    part += letter
    bytes += size
  }
  return [...out, part].join('\r\n')
}
