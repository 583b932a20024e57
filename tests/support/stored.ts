import type { Page } from 'puppeteer-core'

/** All rows of a table of the browser's store. Blobs and buffers do not survive the way out. */
export function rows<T>(page: Page, table: string): Promise<T[]> {
  return page.evaluate(
    (name: string) =>
      new Promise<unknown[]>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const found = open.result.transaction(name).objectStore(name).getAll()
          found.onsuccess = () => {
            open.result.close()
            resolve(found.result)
          }
        }
      }),
    table,
  ) as Promise<T[]>
}

/** The bytes of one field (a blob or a buffer) of every row of a table, beside the row's other fields. */
export async function filesIn<T>(
  page: Page,
  table: string,
  field: string,
): Promise<(T & { bytes: Buffer; type: string })[]> {
  const found = await page.evaluate(
    async (name: string, key: string) => {
      const all = await new Promise<Record<string, unknown>[]>(resolve => {
        const open = indexedDB.open('orthograph')
        open.onsuccess = () => {
          const rows = open.result.transaction(name).objectStore(name).getAll()
          rows.onsuccess = () => {
            open.result.close()
            resolve(rows.result as Record<string, unknown>[])
          }
        }
      })
      return Promise.all(
        all.map(async row => {
          const value = row[key] as Blob | ArrayBuffer
          const bytes = new Uint8Array(value instanceof Blob ? await value.arrayBuffer() : value)
          let text = ''
          for (const b of bytes) text += String.fromCharCode(b)
          return { ...row, [key]: null, base64: btoa(text), type: value instanceof Blob ? value.type : '' }
        }),
      )
    },
    table,
    field,
  )
  return found.map(({ base64, ...row }) => ({ ...row, bytes: Buffer.from(base64, 'base64') })) as never
}

/**
 * What a machine may lose of a take that does other things beside it, ms; it is told then, and nothing else is wrong.
 */
export const BUSY_MS = 500

/** What is missing by the gaps of a take, ms. @param from what lies before this moment of the take is left out, ms */
export function missing(gaps: readonly { from: number; to: number }[], from = 0): number {
  return gaps.reduce((sum, g) => sum + Math.max(0, g.to - Math.max(g.from, from)), 0)
}
