import { layoutKey, type Lesson } from '../core/lesson/form'
import type { FigureLayout, layFigure as LayFigure } from '../core/figures'
import type { GuideLayout, layGuide as LayGuide } from '../core/guides'

export { pathsOfCell } from '../core/guides/write'

/**
 * Layout guides and figures as they come with lessons. The page's build takes this module in place of core/guides and
 * core/figures (scripts/assets.mjs): the methods are a third of its script, and are not needed to draw what is laid out.
 */
const guides = new Map<string, GuideLayout>()
const figures = new Map<string, FigureLayout>()

/** Notes what a lesson brings. */
export function learnLayouts({ laid }: Lesson): void {
  for (const [key, layout] of Object.entries(laid?.guides ?? {})) guides.set(key, { ...layout, moves: [], order: [] })
  for (const [key, layout] of Object.entries(laid?.figures ?? {})) figures.set(key, layout)
}

function known<Layout>(layouts: ReadonlyMap<string, Layout>, spec: object): Layout {
  const layout = layouts.get(layoutKey(spec))
  if (!layout) throw new Error('no layout came with the lesson')
  return layout
}
export const layGuide: typeof LayGuide = spec => known(guides, spec)
export const layFigure: typeof LayFigure = spec => known(figures, spec)
