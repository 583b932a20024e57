/**
 * What a student hands in as a file: a question about a moment, or an explanation of her own. They are JSON; a newer form
 * has a greater version.
 */

/** In the teacher's pictures, a student's ink is told from her own by its colour. */
export const OWN_INK = '#7a2f8a'
export const HAND_IN_VERSION = 1
/** An explanation is no longer than this, ms. */
export const MOST_EXPLAINED = 10 * 60_000

interface Handed {
  version: number
  /** The lesson's lineage, and the question's id and number. */
  lesson: string
  question: string
  number: string
  /** Her words. */
  says: string
}

/** "I am stuck here." */
export interface Stuck extends Handed {
  form: 'orthograph-stuck'
  /** Lesson ms. */
  t: number
  /** The step's title and index. */
  step: string
  stepIndex: number
  /** Her ink, if she wants to show it: x, y, pressure, ms of each sample. */
  attempt?: number[][]
}

/** Her own explanation, recorded: a lesson as a student page has it (docs/lesson-form.md), and its sound. */
export interface Explanation extends Handed {
  form: 'orthograph-explanation'
  /** Her name, as far as she gave one. */
  by: string
  /** Base64 of the deflated lesson. */
  data: string
  /** Base64 of her voice. */
  sound: { mime: string; data: string } | null
}

/** Bytes as text, a piece at a time: the whole would be too many arguments. */
export function base64(bytes: Uint8Array): string {
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}

/** @throws DOMException where it is none */
export const fromBase64 = (text: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from(atob(text.trim()), c => c.charCodeAt(0))

const piped = async (bytes: Uint8Array<ArrayBuffer>, through: CompressionStream | DecompressionStream) =>
  new Uint8Array(await new Response(new Blob([bytes]).stream().pipeThrough(through)).arrayBuffer())
export const deflated = (bytes: Uint8Array<ArrayBuffer>) => piped(bytes, new CompressionStream('deflate-raw'))
/** @throws TypeError where it is nothing deflated */
export const inflated = (bytes: Uint8Array<ArrayBuffer>) => piped(bytes, new DecompressionStream('deflate-raw'))
