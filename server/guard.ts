import type { IncomingHttpHeaders, IncomingMessage } from 'node:http'

/** The name of a Host header, without its port. */
export const hostName = (host: string | undefined) => (host ?? '').replace(/:\d+$/, '').toLowerCase()

/** Names of this machine for itself. */
const OWN_NAMES = ['localhost', '127.0.0.1', '[::1]']
export const isOwnName = (host: string | undefined) => OWN_NAMES.includes(hostName(host))
export const isLoopback = (address: string | undefined) =>
  /^(127\.\d+\.\d+\.\d+|::1|::ffff:127\.\d+\.\d+\.\d+)$/.test(address ?? '')

/** Headers that tell of a go-between, behind which every request seems to come from this machine. */
const FORWARDED = ['forwarded', 'x-forwarded-for', 'x-real-ip', 'via']

/** Whether a request comes from a browser on this machine, under one of the machine's own names for itself. */
export function isSameMachine({ socket, headers }: Pick<IncomingMessage, 'socket' | 'headers'>): boolean {
  return (
    isLoopback(socket.remoteAddress) && isOwnName(headers.host) && !FORWARDED.some(name => headers[name] !== undefined)
  )
}

/** Whether a request that changes something was made by the application's own pages, or by no page at all. */
export function isOwnOrigin({ origin, host, 'sec-fetch-site': from }: IncomingHttpHeaders): boolean {
  if (from !== undefined && from !== 'same-origin' && from !== 'none') return false
  if (origin === undefined) return true
  try {
    return new URL(origin).host === host
  } catch {
    return false
  }
}
