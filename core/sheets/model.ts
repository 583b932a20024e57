/** A table of a reference sheet: what it is about, where its values are published, and its rows of cells. */
export interface Section {
  id: string
  title: string
  source: string
  head: string[]
  rows: string[][]
}
/** A reference sheet. */
export interface ReferenceSheet {
  id: string
  title: string
  sections: Section[]
}
