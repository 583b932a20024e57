/** Puts what pdf.js reads at run time beside the application, from the installed package. */
import { cpSync, existsSync, mkdirSync } from 'node:fs'

const from = new URL('../node_modules/pdfjs-dist/', import.meta.url)
const to = new URL('../public/pdfjs/', import.meta.url)
mkdirSync(to, { recursive: true })
for (const folder of ['cmaps', 'standard_fonts', 'wasm', 'iccs']) {
  if (existsSync(new URL(folder, from))) cpSync(new URL(`${folder}/`, from), new URL(`${folder}/`, to), { recursive: true })
}
