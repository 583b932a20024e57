import type { NothingThere } from './ownPage'

/**
 * What a request is answered with when it cannot be met: an HTTP status, a word, and headers that help to do it right.
 */
export class Refusal extends Error {
  constructor(
    readonly statusCode: number,
    message: string,
    readonly headers: Record<string, string> = {},
    /** Why there is nothing at an address, for a page that says so. */
    readonly nothing?: NothingThere,
  ) {
    super(message)
  }
}

/** What file systems and Redis say when there is no room (errno(3); Redis answers `OOM …`). */
const NO_ROOM = ['ENOSPC', 'EDQUOT', 'EFBIG']

/** The refusal that an error of the storage amounts to; null where it is none, but a fault. */
export function refusalOf(error: unknown): Refusal | null {
  if (error instanceof Refusal) return error
  if (!(error instanceof Error)) return null
  const { code } = error as NodeJS.ErrnoException
  return NO_ROOM.includes(code ?? '') || error.message.startsWith('OOM ') ? new Refusal(507, 'No room is left') : null
}
