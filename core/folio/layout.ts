import type { Box } from './basics'
import type { Page, Space } from './page'

/** A strip of a page's own picture and where it is laid: `from` and `h` in the picture, `y` on the page, all points. */
export interface Strip {
  from: number
  h: number
  y: number
}

/** Size of a page's picture (turned, without added room), points. */
export function pictureSize(page: Page): { width: number; height: number } {
  const sum = (side: Space['side']) => page.spaces.filter(s => s.side === side).reduce((n, s) => n + s.size, 0)
  return { width: page.width - sum('beside'), height: page.height - sum('below') }
}

/** The picture's strips from top to bottom, with the added room between them. */
export function stripsOf(page: Page): Strip[] {
  let strips: Strip[] = [{ from: 0, h: pictureSize(page).height, y: 0 }]
  for (const space of page.spaces) {
    if (space.side !== 'below') continue
    strips = strips.flatMap(s => {
      if (s.y >= space.y) return [{ ...s, y: s.y + space.size }]
      if (s.y + s.h <= space.y) return [s]
      const above = space.y - s.y
      return [
        { ...s, h: above },
        { from: s.from + above, h: s.h - above, y: space.y + space.size },
      ]
    })
  }
  return strips
}

/** Where a point of the picture stands on the page. @param y in the picture, points */
export function onPage(page: Page, y: number): number {
  const strip = stripsOf(page).find(s => y < s.from + s.h) ?? stripsOf(page).at(-1)!
  return strip.y + y - strip.from
}

/** A box after room was made: below it moves, across it grows. Room beside changes nothing. */
export function afterSpace(box: Box, space: Pick<Space, 'side' | 'y' | 'size'>): Box {
  if (space.side === 'beside' || box.y + box.h <= space.y) return box
  return box.y >= space.y - 0.5 ? { ...box, y: box.y + space.size } : { ...box, h: box.h + space.size }
}

/** A box on a page that is turned a quarter clockwise. @param height of the page before */
export function afterTurn(box: Box, height: number): Box {
  return { x: height - box.y - box.h, y: box.x, w: box.h, h: box.w }
}

/** The rooms that were made in a page after a take began: what its ink has to move by, in order. */
export function spacesSince(page: Page | undefined, startedAt: string): Space[] {
  return page?.spaces.filter(s => s.at > startedAt) ?? []
}
