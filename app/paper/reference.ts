import type { Page } from '#core/folio'
import { sectionOf, type Section } from '#core/sheets'
import { paintBlank } from './blank'

const ROW = 24,
  TOP = 58,
  FOOT = 26,
  MARGIN = 22
const FONT = '"STIX Two Text", serif'
/** Rows in one column before a second one is begun. */
const MOST_ROWS = 18

/** Size of a section's page in points: as narrow as its words allow. */
export function referenceSize(section: Section): { width: number; height: number } {
  const columns = Math.ceil(section.rows.length / MOST_ROWS)
  return {
    width: columns * columnWidth(section) + 2 * MARGIN,
    height: TOP + Math.min(MOST_ROWS, section.rows.length) * ROW + FOOT,
  }
}

const widths = (section: Section) =>
  Array.from(
    { length: Math.max(...section.rows.map(r => r.length)) },
    (_, i) => 16 + 6.9 * Math.max(...section.rows.map(r => (r[i] ?? '').length)),
  )
const columnWidth = (section: Section) =>
  Math.max(
    200,
    widths(section).reduce((a, b) => a + b, 0),
  )

/** Paints a table of a reference sheet: its title, its rows, and where its values are published. */
export function paintReference(context: CanvasRenderingContext2D, page: Extract<Page, { kind: 'reference' }>): void {
  paintBlank(context, { paper: 'plain', dark: false }, { x: 0, y: 0, w: page.width, h: page.height })
  const section = sectionOf(page.sheetId, page.sectionId)
  if (!section) return
  context.textBaseline = 'alphabetic'
  context.fillStyle = '#1f3f80'
  context.font = `600 20px ${FONT}`
  context.fillText(section.title, MARGIN, 34)
  const across = widths(section)
  section.rows.forEach((row, i) => {
    let x = MARGIN + Math.floor(i / MOST_ROWS) * columnWidth(section)
    const y = TOP + (i % MOST_ROWS) * ROW
    context.fillStyle = '#e6e2d6'
    context.fillRect(x, y + ROW - 7, columnWidth(section) - 14, 0.6)
    context.fillStyle = '#2e2c28'
    context.font = `15px ${FONT}`
    row.forEach((cell, k) => {
      context.fillText(cell, x, y + 12)
      x += across[k]!
    })
  })
  context.fillStyle = '#5f5a50'
  context.font = `11px ${FONT}`
  context.fillText(`Source: ${section.source}`, MARGIN, page.height - 10)
}
