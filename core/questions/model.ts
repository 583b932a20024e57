import type { Box } from '../folio'

/**
 * A run of letters as the page sets it; `x`, `y` the left end of its baseline in points from the top left, `w` its
 * width, `size` its letter size.
 */
export interface TextPiece {
  text: string
  x: number
  y: number
  w: number
  size: number
  bold: boolean
}

/** A small closed outline that may be an answer box or circle, in points. */
export interface Outline {
  x: number
  y: number
  w: number
  h: number
}

/** What the finder knows of one page: its size in points, its positioned text, and small outlines drawn on it. */
export interface PageText {
  width: number
  height: number
  pieces: TextPiece[]
  outlines: Outline[]
}

/** A rectangle on a page; `page` counts from 0. */
export interface Place {
  page: number
  box: Box
}

/** A part or sub-part: "a", "b(i)"; marks null when none are printed. */
export interface FoundPart {
  label: string
  marks: number | null
  place: Place
}

/** One lettered choice; a choice without a letter of its own is given A, B, C… in reading order. */
export interface FoundOption {
  label: string
  text: string
  place: Place
}

/** A proposed question is called sure from this confidence on, and fairly sure from the lower one; 0…1. */
export const SURE = 0.85
export const FAIRLY_SURE = 0.6

/** A proposed question with the places it fills, its first first; confidence 0…1. */
export interface FoundQuestion {
  label: string
  text: string
  marks: number | null
  places: Place[]
  parts: FoundPart[]
  options: FoundOption[]
  confidence: number
  /** Index into the paper's `instructions` of the words shared with its neighbours, when there are any. */
  shared: number | null
}

/** Words that belong to several questions: a section's heading, "Use this figure for questions 4 to 6". */
export interface SharedInstruction {
  text: string
  place: Place
}

export interface FoundPaper {
  questions: FoundQuestion[]
  instructions: SharedInstruction[]
  /** Pages that hold no questions and why, page counted from 0. */
  leftOut: { page: number; why: 'cover' | 'answers' | 'empty' }[]
}

/** A word with the gap to the word before it on its line (Infinity for the first). */
export interface Word extends TextPiece {
  gap: number
}

/** Words on one baseline inside one column. */
export interface Line {
  page: number
  area: number
  words: Word[]
  x: number
  right: number
  y: number
  size: number
  bold: boolean
  text: string
}
