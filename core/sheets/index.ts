import { CONSTANTS_SHEET } from './constants'
import { ELEMENTS_SHEET } from './elements'
import { FORMULAS } from './formulas'
import type { ReferenceSheet, Section } from './model'
import { NUMBERS } from './numbers'
import { UNITS } from './units'

export type { ReferenceSheet, Section } from './model'
export { CONSTANTS, valueOf } from './constants'
export { CONVERSIONS, grouped } from './units'
export { ELEMENTS, type Element } from './elements'
export { primesUpTo } from './numbers'

export const SHEETS: readonly ReferenceSheet[] = [FORMULAS, UNITS, CONSTANTS_SHEET, ELEMENTS_SHEET, NUMBERS]

/** A section by its sheet's and its own id; null for what is not known. */
export function sectionOf(sheetId: string, sectionId: string): Section | null {
  return SHEETS.find(s => s.id === sheetId)?.sections.find(s => s.id === sectionId) ?? null
}

const plain = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036F]/g, '')
    .toLowerCase()

/** Sections with only the rows in which every word of a search is found, in a title, a name, a sign or a value. */
export function searchSheets(
  query: string,
  sheets: readonly ReferenceSheet[] = SHEETS,
): { sheet: ReferenceSheet; section: Section }[] {
  const words = plain(query).split(/\s+/).filter(Boolean)
  return sheets.flatMap(sheet =>
    sheet.sections.flatMap(section => {
      const rows = section.rows.filter(row => {
        const text = plain(`${section.title} ${row.join(' ')}`)
        return words.every(w => text.includes(w))
      })
      return rows.length ? [{ sheet, section: { ...section, rows } }] : []
    }),
  )
}
