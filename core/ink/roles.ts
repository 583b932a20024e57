/** What a stroke is for; it sets colour, width and line style, and travels with the stroke into every export. */
export const PEN_ROLES = ['working', 'given', 'carry', 'answer', 'aside'] as const
export type PenRole = typeof PEN_ROLES[number]

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

export const ROLE_STYLES: Record<PenRole, RoleStyle> = {
  working: { label: 'Working', use: 'the solution itself', colour: '#1d3f8f', alpha: 1, width: 2.1, thinning: 0.55, line: 'solid' },
  given: { label: 'Given', use: 'marking words and data', colour: '#e0a526', alpha: 0.42, width: 10, thinning: 0.08, line: 'band' },
  carry: { label: 'Carry', use: 'small regrouping marks', colour: '#6b3fa0', alpha: 1, width: 1.15, thinning: 0.35, line: 'fine' },
  answer: { label: 'Answer', use: 'the result', colour: '#c8331b', alpha: 1, width: 3.4, thinning: 0.4, line: 'double' },
  aside: { label: 'Aside', use: 'a remark beside the way', colour: '#5d5a52', alpha: 1, width: 1.3, thinning: 0.1, line: 'dashed' },
}
