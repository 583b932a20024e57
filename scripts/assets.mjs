/**
 * Puts what packages read at run time beside the application: pdf.js's data, and the character recogniser with its
 * language. Builds the script of the
 * student page, which stands in every page that is published.
 */
import { copyFileSync, cpSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { build, buildSync } from 'esbuild'
import { sharedTokens } from './tokens.mjs'

const from = new URL('../node_modules/pdfjs-dist/', import.meta.url)
const to = new URL('../public/pdfjs/', import.meta.url)
mkdirSync(to, { recursive: true })
for (const folder of ['cmaps', 'standard_fonts', 'wasm', 'iccs']) {
  if (existsSync(new URL(folder, from)))
    cpSync(new URL(`${folder}/`, from), new URL(`${folder}/`, to), { recursive: true })
}

// The product's own faces for what is served without the application: the student page and the pad.
const fonts = new URL('../public/fonts/', import.meta.url)
mkdirSync(fonts, { recursive: true })
for (const [family, weights] of [
  ['atkinson-hyperlegible', [400, 700]],
  ['stix-two-text', [400, 600]],
]) {
  for (const weight of weights) {
    // Pages take the smaller form; the handout is made with the other.
    for (const ending of family.startsWith('atkinson') ? ['woff2', 'woff'] : ['woff2']) {
      const name = `${family}-latin-${weight}-normal.${ending}`
      copyFileSync(
        new URL(`../node_modules/@fontsource/${family}/files/${name}`, import.meta.url),
        new URL(name, fonts),
      )
    }
  }
}

const ocr = new URL('../public/ocr/', import.meta.url)
mkdirSync(ocr, { recursive: true })
const packages = new URL('../node_modules/', import.meta.url)
for (const file of [
  'tesseract.js/dist/worker.min.js',
  ...['', '-simd', '-relaxedsimd'].map(kind => `tesseract.js-core/tesseract-core${kind}-lstm.wasm.js`),
  '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz',
]) {
  copyFileSync(new URL(file, packages), new URL(file.split('/').at(-1), ocr))
}

const student = path => fileURLToPath(new URL(`../student/${path}`, import.meta.url))
/** A page draws guides and figures as they come with its lessons (student/laid.ts), and has none of their methods. */
function drawsWhatIsLaidOut(page) {
  page.onResolve({ filter: /^\.\.\/(guides|figures)$/ }, ({ importer }) =>
    importer.includes('/core/things/') ? { path: student('laid.ts') } : null,
  )
}

// The scripts of the student page and of class pages, and the worker that keeps a lesson for use without a line.
for (const [source, made] of [
  ['player.ts', 'player.js'],
  ['aids.ts', 'aids.js'],
  ['classPage.ts', 'classPage.js'],
  ['keep.worker.ts', 'keep.js'],
])
  await build({
    entryPoints: [student(source)],
    outfile: student(`built/${made}`),
    bundle: true,
    format: 'iife',
    minify: true,
    target: 'es2022',
    legalComments: 'none',
    plugins: [{ name: 'laid', setup: drawsWhatIsLaidOut }],
  })
// Their colours are those of the interface. Their fonts stand beside the page.
const main = readFileSync(fileURLToPath(new URL('../app/assets/css/main.css', import.meta.url)), 'utf8')
writeFileSync(student('built/tokens.css'), sharedTokens(main))
for (const style of ['page.css', 'classPage.css'])
  buildSync({
    entryPoints: [student(style)],
    outfile: student(`built/${style}`),
    bundle: true,
    external: ['*.woff2'],
    minify: true,
    legalComments: 'none',
  })

// Its icons, those of the application, as one SVG that stands in the page.
const { icons } = JSON.parse(readFileSync(new URL('@iconify-json/lucide/icons.json', packages), 'utf8'))
const wanted = readFileSync(fileURLToPath(new URL('../core/publish/icon.ts', import.meta.url)), 'utf8')
const names = [.../PAGE_ICONS = \[([^\]]*)\]/.exec(wanted)[1].matchAll(/'([\w-]+)'/g)].map(found => found[1])
const symbols = names.map(name => `<symbol id="icon-${name}" viewBox="0 0 24 24">${icons[name].body}</symbol>`)
writeFileSync(student('built/icons.svg'), `<svg class="icons" aria-hidden="true">${symbols.join('')}</svg>`)
