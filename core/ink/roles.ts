import { PEN_ROLES, type PenRole } from '../folio/basics'

export { PEN_ROLES, type PenRole }

export interface RoleStyle {
  /** Shown to the teacher. */
  label: string
  /** What it is for, in a few words. */
  use: string
  /** Fill, `#rrggbb`, chosen for white paper. */
  colour: string
  /** 0…1. */
  alpha: number
  /** Nominal width in points. */
  width: number
  /** How far pressure thins and thickens the line, 0…1. */
  thinning: number
  /** Told apart without colour, too. */
  line: 'solid' | 'band' | 'fine' | 'double' | 'dashed'
}

/** Colours of the roles on dark paper, with the same order of brightness. */
export const ON_DARK: Record<string, string> = { '#1d3f8f': '#a9c4f5', '#e0a526': '#e0a526', '#6b3fa0': '#cdb2ef', '#c8331b': '#ff9a80', '#5d5a52': '#c9c4b6', '#ffe9e2': '#5a2418', '#8a5a00': '#f0c465', '#4a4842': '#d8d3c6', '#b4cbe0': '#46617c', '#ffffff': '#26241f', '#1d6f5c': '#7fd0bb', '#8a4b12': '#e0a877' }

export const ROLE_STYLES: Record<PenRole, RoleStyle> = {
  working: { label: 'Working', use: 'the solution itself', colour: '#1d3f8f', alpha: 1, width: 2.1, thinning: 0.55, line: 'solid' },
  given: { label: 'Given', use: 'marking words and data', colour: '#e0a526', alpha: 0.42, width: 10, thinning: 0.08, line: 'band' },
  carry: { label: 'Carry', use: 'small regrouping marks', colour: '#6b3fa0', alpha: 1, width: 1.15, thinning: 0.35, line: 'fine' },
  answer: { label: 'Answer', use: 'the result', colour: '#c8331b', alpha: 1, width: 3.4, thinning: 0.4, line: 'double' },
  aside: { label: 'Aside', use: 'a remark beside the way', colour: '#5d5a52', alpha: 1, width: 1.3, thinning: 0.1, line: 'dashed' },
}
