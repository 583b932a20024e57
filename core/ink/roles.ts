import { PEN_ROLES, styleOf } from '../folio/roles'

export {
  keyOfRole,
  letterColour,
  PEN_ROLES,
  ROLE_STYLES,
  roleOfKey,
  styleOf,
  type PenRole,
  type RoleStyle,
} from '../folio/roles'

/** Colours that are no role's, on dark paper. */
const OTHERS: Record<string, string> = {
  '#ffe9e2': '#5a2418',
  '#4a4842': '#d8d3c6',
  '#b4cbe0': '#46617c',
  '#ffffff': '#26241f',
  '#1d6f5c': '#7fd0bb',
  '#8a4b12': '#e0a877',
}

/** Colours of white paper, with the same order of brightness on dark paper. */
export const ON_DARK: Record<string, string> = {
  ...OTHERS,
  ...Object.fromEntries(
    PEN_ROLES.map(styleOf).flatMap(
      s => [[s.colour, s.onDark], ...(s.letters ? [[s.letters.colour, s.letters.onDark]] : [])] as [string, string][],
    ),
  ),
}
