/** How a role's ink looks, and what it is called. */
export interface RoleStyle {
  /** Shown to the teacher. */
  label: string
  /** What it is for, in a few words. */
  use: string
  /** Fill, `#rrggbb`, chosen for white paper. */
  colour: string
  /** The same on dark paper, with the same order of brightness. */
  onDark: string
  /** Typed letters, where its own colour is too light to be read as a letter, on white and on dark paper. */
  letters?: { colour: string; onDark: string }
  /** 0…1. */
  alpha: number
  /** Nominal width in points. */
  width: number
  /** How far pressure thins and thickens the line, 0…1. */
  thinning: number
  /** Told apart without colour, too. */
  line: 'solid' | 'band' | 'fine' | 'double' | 'dashed'
}

/**
 * What a stroke is for. The order is that of the tray; a role's place in it (from 1) is its key, and its number in
 * typed lines (`@4(x = 7)`).
 * Everything that knows roles derives from this table.
 */
export const ROLE_STYLES = {
  working: {
    label: 'Working',
    use: 'the solution itself',
    colour: '#1d3f8f',
    onDark: '#a9c4f5',
    alpha: 1,
    width: 2.1,
    thinning: 0.55,
    line: 'solid',
  },
  given: {
    label: 'Given',
    use: 'marking words and data',
    colour: '#e0a526',
    onDark: '#e0a526',
    letters: { colour: '#8a5a00', onDark: '#f0c465' },
    alpha: 0.42,
    width: 10,
    thinning: 0.08,
    line: 'band',
  },
  carry: {
    label: 'Carry',
    use: 'small regrouping marks',
    colour: '#6b3fa0',
    onDark: '#cdb2ef',
    alpha: 1,
    width: 1.15,
    thinning: 0.35,
    line: 'fine',
  },
  answer: {
    label: 'Answer',
    use: 'the result',
    colour: '#c8331b',
    onDark: '#ff9a80',
    alpha: 1,
    width: 3.4,
    thinning: 0.4,
    line: 'double',
  },
  aside: {
    label: 'Aside',
    use: 'a remark beside the way',
    colour: '#5d5a52',
    onDark: '#c9c4b6',
    alpha: 1,
    width: 1.3,
    thinning: 0.1,
    line: 'dashed',
  },
} as const satisfies Record<string, RoleStyle>

/** What a stroke is for; it sets colour, width and line style, and travels with the stroke into every export. */
export type PenRole = keyof typeof ROLE_STYLES
export const PEN_ROLES = Object.keys(ROLE_STYLES) as [PenRole, ...PenRole[]]

/** A role's style, as any role may have it. */
export const styleOf = (role: PenRole): RoleStyle => ROLE_STYLES[role]

/** A role's key in Solve, and its number in typed lines. */
export const keyOfRole = (role: PenRole): string => String(PEN_ROLES.indexOf(role) + 1)
/** The role of a key or number; undefined when there is none. */
export const roleOfKey = (key: string): PenRole | undefined =>
  /^[1-9]$/.test(key) ? PEN_ROLES[Number(key) - 1] : undefined

/** Typed letters in a role's colour. */
export const letterColour = (role: PenRole): string => styleOf(role).letters?.colour ?? ROLE_STYLES[role].colour
