import { createHash } from 'node:crypto'
import type { IncomingMessage } from 'node:http'
import type { SiteVersion } from '../../core/publish/version'
import { Refusal } from './refusal'

/** A text as a Content-Security-Policy names it. */
export const policyHash = (text: string) => `sha256-${createHash('sha256').update(text).digest('base64')}`

/** Headers of every answer to students. */
export const COMMON = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  // A student may record an explanation on the page; it goes nowhere but into a file of hers.
  'Permissions-Policy': 'camera=(), microphone=(self), geolocation=()',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'",
}
/** What a published page may do. Nothing but the player's own script and style, and files that stand beside it. */
export function policyOf(player: SiteVersion['player']): string {
  const own = (hashes: string) =>
    hashes
      .split(' ')
      .map(hash => (hash ? `'${hash}'` : `'none'`))
      .join(' ')
  return [
    `default-src 'none'`,
    `script-src ${own(player.script)}`,
    `style-src ${own(player.style)}`,
    `img-src 'self' data:`,
    `media-src 'self' blob:`,
    `connect-src 'self'`,
    `worker-src 'self'`,
    `font-src 'self'`,
    `base-uri 'none'`,
    `form-action 'none'`,
    `frame-ancestors 'none'`,
  ].join('; ')
}

/** Whether the reader has it already (If-None-Match, else If-Modified-Since; RFC 9110, 13.1). @param modified HTTP date */
export function isKnown({ headers }: IncomingMessage, etag: string, modified: string): boolean {
  const match = headers['if-none-match']
  if (match !== undefined) return match.split(',').some(tag => ['*', etag].includes(tag.trim().replace(/^W\//, '')))
  return Date.parse(headers['if-modified-since'] ?? '') >= Date.parse(modified)
}

/** Whether a part may be given: without If-Range always, else only of the same file (RFC 9110, 13.1.5). */
export function mayRange({ headers }: IncomingMessage, etag: string, modified: string): boolean {
  const condition = headers['if-range']
  return condition === undefined || condition === etag || condition === modified
}

/** The bytes that a Range header asks for, or null for the whole. @throws Refusal 416 */
export function rangeOf(header: string | undefined, size: number): { from: number; to: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (!match || (!match[1] && !match[2])) return null
  const from = match[1] ? Number(match[1]) : Math.max(0, size - Number(match[2]))
  const to = match[1] && match[2] ? Math.min(Number(match[2]), size - 1) : size - 1
  if (match[1] && match[2] && Number(match[2]) < from) return null
  if (from > to || from >= size) throw new Refusal(416, 'Range not satisfiable', { 'Content-Range': `bytes */${size}` })
  return { from, to }
}
