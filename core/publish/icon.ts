import { html, type Html } from './html'

/** The icons that the student page has; scripts/assets.mjs puts them into one SVG (Lucide, ISC licence). */
export const PAGE_ICONS = [
  'play',
  'pause',
  'rotate-ccw',
  'step-back',
  'step-forward',
  'captions',
  'flag',
  'maximize',
  'ellipsis',
  'search',
  'pencil',
  'eraser',
  'undo-2',
  'redo-2',
  'chevron-left',
] as const
export type PageIcon = (typeof PAGE_ICONS)[number]

/** An icon of the page's own sprite; what it means is said beside it, for who does not see it. */
export const icon = (name: PageIcon): Html =>
  html`<svg class="icon" aria-hidden="true">
    <use href="#icon-${name}" />
  </svg>`
