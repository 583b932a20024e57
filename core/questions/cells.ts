import type { Box } from '../folio'
import { inLines, type Area } from './columns'
import type { Link } from './chain'
import type { Line, TextPiece } from './model'

/**
 * A piece of a page that belongs to one question: where it is, and the lines in it. `link` is the index of the
 * question's label; -1 before the first.
 */
export interface Cell {
  link: number
  page: number
  area: number
  x0: number
  x1: number
  y0: number
  y1: number
  lines: Line[]
  opens: boolean
}

/**
 * Shares each area of each page out among the questions: downwards from label to label, and across where several labels
 * stand in a row.
 * What stands above the first label of an area goes on with the question before it.
 */
export function cellsOf(
  areas: readonly (readonly Area[])[],
  words: readonly (readonly TextPiece[])[],
  links: readonly Link[],
): Cell[] {
  const cells: Cell[] = []
  let running = -1
  areas.forEach((pageAreas, page) =>
    pageAreas.forEach((area, a) => {
      const own = links
        .map((link, index) => ({ link, index }))
        .filter(l => l.link.candidate.page === page && l.link.candidate.area === a)
      const rows: (typeof own)[] = []
      for (const item of own.sort((p, q) => p.link.candidate.y - q.link.candidate.y)) {
        const row = rows.at(-1)
        if (row && Math.abs(row[0]!.link.candidate.y - item.link.candidate.y) < 0.7 * item.link.candidate.line.size)
          row.push(item)
        else rows.push([item])
      }
      const topOf = (row: typeof own) =>
        Math.min(...row.map(r => r.link.candidate.y - 1.05 * r.link.candidate.line.size))
      const firstTop = rows.length ? topOf(rows[0]!) : area.y1
      cells.push(cell(running, page, a, { ...area, y1: firstTop }, words[page]!, false))
      rows.forEach((row, r) => {
        const y0 = topOf(row),
          y1 = rows[r + 1] ? topOf(rows[r + 1]!) : area.y1
        const across = row.toSorted((p, q) => startOf(p.link) - startOf(q.link))
        across.forEach((item, k) => {
          const x0 = k === 0 ? area.x0 : startOf(item.link) - 1,
            x1 = across[k + 1] ? startOf(across[k + 1]!.link) - 1 : area.x1
          cells.push(cell(item.index, page, a, { x0, x1, y0, y1 }, words[page]!, true))
        })
      })
      running = own.length ? Math.max(...own.map(o => o.index)) : running
    }),
  )
  return cells
}

const startOf = (link: Link) => link.candidate.line.words[link.candidate.word]!.x

function cell(link: number, page: number, area: number, at: Area, words: readonly TextPiece[], opens: boolean): Cell {
  const own = words.filter(w => w.x >= at.x0 && w.x < at.x1 && w.y >= at.y0 + 0.5 && w.y < at.y1 + 0.5 - 0.02 * w.size)
  return { link, page, area, ...at, lines: inLines(own, page, area), opens }
}

/** The rectangle round some lines with a little air, kept on the page. */
export function boxOf(lines: readonly Line[], page: { width: number; height: number }, air = 4): Box {
  const x0 = Math.max(0, Math.min(...lines.map(l => l.x)) - air),
    x1 = Math.min(page.width, Math.max(...lines.map(l => l.right)) + air)
  const y0 = Math.max(0, Math.min(...lines.map(l => l.y - l.size)) - air),
    y1 = Math.min(page.height, Math.max(...lines.map(l => l.y + 0.3 * l.size)) + air)
  return { x: round(x0), y: round(y0), w: round(Math.max(1, x1 - x0)), h: round(Math.max(1, y1 - y0)) }
}

const round = (v: number) => Math.round(v * 100) / 100
