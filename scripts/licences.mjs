/**
 * The notice of what ships with the application: every package whose code or data is in the build, with its version,
 * its
 * licence and the licence's text. Which packages those are is read off the build itself.
 */
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

const root = new URL('..', import.meta.url).pathname

/**
 * Packages of which files are copied beside the application (scripts/assets.mjs), with the folders in which their own
 * notices stand.
 */
export const COPIED = [
  ['pdfjs-dist', ['.', 'standard_fonts', 'wasm', 'cmaps', 'iccs']],
  ['tesseract.js', ['.']],
  ['tesseract.js-core', ['.']],
  ['@tesseract.js-data/eng', ['.']],
  ['@fontsource/atkinson-hyperlegible', ['.']],
  ['@fontsource/stix-two-text', ['.']],
  ['@iconify-json/lucide', ['.']],
  ['tailwindcss', ['.']],
]

/** What a package holds beside its own code, and under which terms; packages do not always say. */
const INSIDE = {
  '@mediabunny/aac-encoder': `Holds the AAC encoder of FFmpeg (libavcodec), compiled to WebAssembly, under the GNU Lesser General Public License 2.1 or
later (LGPL-2.1-or-later). How its terms are kept: it is used unchanged, as published in the npm registry under this name and
version, where its source (src/), and the place of FFmpeg's, are named; it is a module of its own that is loaded only where the
browser has no AAC encoder; and it can be exchanged: put another version in node_modules/@mediabunny/aac-encoder, or change the
version in package.json, and run npm run build. The text of the licence follows at the end of this notice.`,
  '@mediabunny/flac-encoder':
    'Holds libFLAC, compiled to WebAssembly, under the BSD 3-clause licence of the Xiph.Org Foundation.',
  '@techstark/opencv-js': 'Holds OpenCV 4.5, compiled to WebAssembly, under the Apache License 2.0.',
  'tesseract.js-core':
    'Holds Tesseract OCR and Leptonica, compiled to WebAssembly, under the Apache License 2.0 and the BSD 2-clause licence.',
  '@tesseract.js-data/eng':
    'Holds the English data of the Tesseract project (tessdata_best), under the Apache License 2.0.',
  '@iconify-json/lucide': 'Icons of the Lucide project, under the ISC licence.',
}
/** Licences whose whole text has to come along though the package does not bring it. */
const ALSO = { '@mediabunny/aac-encoder': 'scripts/lgpl-2.1.txt' }

/**
 * A Rollup plugin that notes which packages' modules are in a bundle.
 * @param name of the build; worker builds of one name are added up
 */
export function notePackages(name, then = () => {}) {
  return {
    name: 'note-packages',
    generateBundle(_, bundle) {
      const file = join(root, 'node_modules/.cache/orthograph-bundled', `${name}.json`)
      const found = new Set(existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : [])
      for (const chunk of Object.values(bundle)) {
        for (const id of Object.keys(chunk.modules ?? {})) {
          const at = id.lastIndexOf('node_modules/')
          const hit = at >= 0 && /^node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(id.slice(at))
          // Packages inside packages are found where they lie.
          if (hit) found.add(id.slice(Math.max(0, id.indexOf('node_modules/')), at) + hit[0])
        }
      }
      mkdirSync(dirname(file), { recursive: true })
      writeFileSync(file, JSON.stringify([...found].sort(), null, 1))
      then()
    },
  }
}

/** The packages noted in builds, beside those that are copied: name, version, licence, and what its notices say. */
export function packagesOf(builds) {
  const paths = new Map()
  for (const build of builds) {
    const file = join(root, 'node_modules/.cache/orthograph-bundled', `${build}.json`)
    if (existsSync(file)) for (const path of JSON.parse(readFileSync(file, 'utf8'))) paths.set(path, ['.'])
  }
  if (builds.includes('server')) for (const path of besideServer()) paths.set(path, ['.'])
  if (builds.includes('client')) for (const [name, folders] of COPIED) paths.set(`node_modules/${name}`, folders)
  return [...paths]
    .flatMap(([path, folders]) => {
      const own = join(root, path, 'package.json')
      if (!existsSync(own)) return []
      const known = JSON.parse(readFileSync(own, 'utf8'))
      const { name, version, license, licenses } = known
      const said =
        typeof license === 'string'
          ? license
          : (license?.type ?? licenses?.map(l => l.type).join(' or ') ?? 'not named')
      const texts = folders.flatMap(folder => noticesIn(join(root, path, folder)))
      return [
        {
          name: name ?? path.replace(/^.*node_modules\//, ''),
          version: version ?? '',
          licence: said,
          texts: [
            ...(texts.length ? texts : [named(known, said)]),
            ...(ALSO[name] ? [readFileSync(join(root, ALSO[name]), 'utf8').trim()] : []),
          ],
        },
      ]
    })
    .sort((a, b) => a.name.localeCompare(b.name))
}

/** What a package without a licence's text says of its terms in its own metadata. */
function named({ author, contributors, homepage, repository }, licence) {
  const people = [author, ...(Array.isArray(contributors) ? contributors : [])]
    .map(p => (typeof p === 'string' ? p : p?.name))
    .filter(Boolean)
  const where = [homepage, typeof repository === 'string' ? repository : repository?.url].filter(Boolean)
  return `The package brings no text of its licence. Its metadata names ${licence}${people.length ? `, by ${people.join(', ')}` : ''}${where.length ? ` (${[...new Set(where)].join(', ')})` : ''}.`
}

/** Packages that stand beside the server as they were published, by their folders; they are copied by its build. */
function besideServer() {
  const folder = '.output/server/node_modules'
  const inside = (at, depth) =>
    existsSync(join(root, at))
      ? readdirSync(join(root, at), { withFileTypes: true }).flatMap(entry => {
          const path = `${at}/${entry.name}`
          if (entry.name.startsWith('@')) return inside(path, depth)
          if (existsSync(join(root, path, 'package.json'))) return [path, ...inside(`${path}/node_modules`, depth + 1)]
          return entry.name === '.nitro' || entry.name === '.nf3' ? inside(path, depth + 1) : []
        })
      : []
  // What is published under a name lies whole in the folder that it was copied from.
  return [
    ...new Set(
      inside(folder, 0).map(path => {
        const name = path
          .slice(path.lastIndexOf('node_modules/') + 13)
          .replace(/^\.(nitro|nf3)\//, '')
          .replace(/(.)@[^/]*$/, '$1')
        return existsSync(join(root, 'node_modules', name, 'package.json')) ? `node_modules/${name}` : path
      }),
    ),
  ]
}

const noticesIn = folder =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter(f => /^(licen[cs]e|notice|copying)/i.test(f) && !/\.(js|mjs|ts)$/.test(f))
        .sort()
        .map(f => readFileSync(join(folder, f), 'utf8').trim())
    : []

/** The notice as a text. */
export function noticeOf(packages) {
  const parts = packages.map(({ name, version, licence, texts }) =>
    [`${name} ${version}`, `Licence: ${licence}`, ...(INSIDE[name] ? [INSIDE[name]] : []), ...texts].join('\n\n'),
  )
  return `What ships with Orthograph, and under which terms. Made from the build by scripts/licences.mjs.\n\n${packages.map(p => `  ${p.name} ${p.version}: ${p.licence}`).join('\n')}\n\n${parts.map(p => `${'-'.repeat(100)}\n${p}`).join('\n\n')}\n`
}

/** Writes the notice of some builds. */
export function writeNotice(builds, path) {
  mkdirSync(dirname(path), { recursive: true })
  writeFileSync(path, noticeOf(packagesOf(builds)))
}

// Run by itself after the build, when what stands beside the server is there.
if (process.argv[1]?.endsWith('licences.mjs')) writeNotice(['server'], join(root, '.output/server/licences.txt'))
