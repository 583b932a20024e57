import type { Spot } from '#core/folio'
import { PEN_ROLES, type PenRole } from '#core/ink'

/** What the hand can do beside writing; each has one key. */
export const TOOLS = [
  {
    id: 'choose',
    label: 'Choose',
    key: 'v',
    icon: 'i-lucide-lasso',
    use: 'Ring or tap what is to be moved, grown, copied, recoloured or removed',
  },
  {
    id: 'mark',
    label: 'Words',
    key: 'm',
    icon: 'i-lucide-highlighter',
    use: 'Mark, underline, strike, ring or box words of the page',
  },
  { id: 'line', label: 'Type', key: 't', icon: 'i-lucide-type', use: 'Type a line of maths or words where you tap' },
  {
    id: 'guide',
    label: 'Guide',
    key: 'g',
    icon: 'i-lucide-grid-3x3',
    use: 'Columns, division, area grid, bars, number line and more',
  },
  {
    id: 'figure',
    label: 'Figure',
    key: 'f',
    icon: 'i-lucide-shapes',
    use: 'Axes, polygons, triangles, solids, molecules, circuits, tables',
  },
  {
    id: 'option',
    label: 'Options',
    key: 'o',
    icon: 'i-lucide-list-checks',
    use: 'Rule out, keep or choose an option: tap it, or press A to E',
  },
  {
    id: 'tally',
    label: 'Tally',
    key: 'u',
    icon: 'i-lucide-route',
    use: 'Follow a way over a figure and add up the numbers on it',
  },
  {
    id: 'light',
    label: 'Light',
    key: 'i',
    icon: 'i-lucide-flashlight',
    use: 'Drag over a piece of the page: the rest steps back. Tap to end',
  },
  {
    id: 'pointer',
    label: 'Point',
    key: 'y',
    icon: 'i-lucide-mouse-pointer-2',
    use: 'A trail that fades, to show where you are',
  },
  {
    id: 'closer',
    label: 'Closer',
    key: 'z',
    icon: 'i-lucide-zoom-in',
    use: 'Drag over a piece of the page: students go closer. Tap to go back',
  },
] as const
export type ToolId = (typeof TOOLS)[number]['id']
export type Tool = PenRole | 'eraser' | ToolId

export const isPen = (tool: Tool): tool is PenRole => (PEN_ROLES as readonly string[]).includes(tool)

/** Widths of a pen in times its usual one. */
export const PEN_SIZES = [
  { label: 'Fine', value: 0.65 },
  { label: 'Usual', value: 1 },
  { label: 'Broad', value: 1.7 },
] as const

/** Why an option falls, in a word. */
export const REASONS = [
  'too large',
  'too small',
  'wrong sign',
  'wrong unit',
  'not a whole number',
  'answers another question',
  'contradicts the given',
] as const

/** The rectangle between two places, in any order. */
export const between = (a: Spot, b: Spot) => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.max(1, Math.abs(a.x - b.x)),
  h: Math.max(1, Math.abs(a.y - b.y)),
})
