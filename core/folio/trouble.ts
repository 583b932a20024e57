/**
 * What went wrong, in the words of a teacher: what happened, what is safe and what to do next.
 * Every layer throws or returns these; the interface shows the three sentences as they are.
 */
export class Trouble extends Error {
  /** A stable, machine-readable name such as `pdf-encrypted`. */
  readonly code: string
  /** What is not lost. */
  readonly safe: string
  /** What to do next. */
  readonly next: string

  constructor(code: string, what: string, safe: string, next: string, cause?: unknown) {
    super(what, { cause })
    this.name = 'Trouble'
    this.code = code
    this.safe = safe
    this.next = next
  }

  /** A plain copy that can cross a worker boundary. */
  toJSON(): TroubleData {
    return { code: this.code, what: this.message, safe: this.safe, next: this.next }
  }
}

export interface TroubleData {
  code: string
  what: string
  safe: string
  next: string
}

/** Names of errors by which a browser's database says that it cannot be opened at all. */
const STORE_AWAY = new Set([
  'OpenFailedError',
  'MissingAPIError',
  'DatabaseClosedError',
  'BlockedError',
  'SecurityError',
])

/**
 * Gives any thrown thing a teacher's sentence.
 * @param error what was caught
 * @param doing what the application was doing, as in "while saving the folio"
 */
export function asTrouble(error: unknown, doing: string): Trouble {
  if (error instanceof Trouble) return error
  if (isTroubleData(error)) return new Trouble(error.code, error.what, error.safe, error.next)
  const name = error instanceof Error ? error.name : ''
  const detail = reasonOf(error)
  if (name === 'QuotaExceededError' || /quota/i.test(detail)) return storageFull(doing, error)
  if (STORE_AWAY.has(name))
    return new Trouble(
      'storage-away',
      `This browser does not let the application read or store anything (${detail}).`,
      'Nothing was changed; what was stored before cannot be seen from here.',
      'Allow storage for this site, or leave the private window; close other tabs of it, then load this page again.',
      error,
    )
  return new Trouble(
    'unexpected',
    `Something went wrong while ${doing} (${detail}).`,
    'What was saved before is still there.',
    'Try once more; if it happens again, save the folio as a file first.',
    error,
  )
}

/** The browser has no room left. */
export function storageFull(doing: string, cause?: unknown): Trouble {
  return new Trouble(
    'storage-full',
    `The browser's storage is full; it happened while ${doing}.`,
    'Everything stored before is safe, and what is not stored yet is kept in this tab.',
    'Remove rendered videos or old folios, or save this folio as a file, then go on.',
    cause,
  )
}

function isTroubleData(value: unknown): value is TroubleData {
  return (
    typeof value === 'object' &&
    value !== null &&
    'code' in value &&
    'what' in value &&
    'safe' in value &&
    'next' in value
  )
}

/** What was typed is not enough for what it is meant for; the example shows how it is typed. */
export function notEnough(code: string, text: string, { label, example }: { label: string; example: string }): Trouble {
  return new Trouble(
    code,
    `“${text.slice(0, 60)}” is not enough for “${label}”.`,
    'What you typed is still there.',
    `Type it like this: ${example}`,
  )
}

/** What an error says of itself. */
export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
