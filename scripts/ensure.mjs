/**
 * Installs what is missing on a fresh machine. Uses nothing but Node itself, as it runs before anything is installed.
 */
import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { existsSync, readFileSync, statSync, readdirSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join } from 'node:path'

export const root = new URL('..', import.meta.url).pathname
const run = (command, args, out = 'inherit') =>
  execFileSync(command, args, { cwd: root, stdio: ['inherit', out, 'inherit'] })
const hashOf = text => createHash('sha256').update(text).digest('hex')

/**
 * Registry packages, when they are missing or the lock file has changed since.
 * @param talk where to say so, so that a command's own output stays clean
 */
export function ensurePackages(talk = process.stdout) {
  const stamp = join(root, 'node_modules/.orthograph-installed')
  const lock = hashOf(readFileSync(join(root, 'package-lock.json')))
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  talk.write('Installing packages\n')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], talk)
  writeFileSync(stamp, lock)
}

/** Whether a command does something, and not only answers to its name. @param check looks at what it wrote */
function does(command, args, { input = '', check = () => true } = {}) {
  const { status, stdout } = spawnSync(command, args, { input, timeout: 30_000, maxBuffer: 1 << 26 })
  return status === 0 && check(stdout.toString('latin1'))
}

/**
 * Debian's packages by what the tests need of them: many machines have groff without its PDF device, or ffmpeg without
 * a coder.
 */
const NEEDED = [
  { pack: 'chromium', can: () => !!process.env.CHROMIUM || does('chromium', ['--version']) },
  {
    pack: 'ffmpeg',
    can: () =>
      does('ffmpeg', ['-hide_banner', '-encoders'], { check: s => / (flac|libopus) /.test(s) }) &&
      does('ffprobe', ['-version']),
  },
  { pack: 'poppler-utils', can: () => spawnSync('pdftotext', ['-v']).status !== null && does('pdftoppm', ['-v']) },
  { pack: 'redis-server', can: () => does('redis-server', ['--version']) },
  { pack: 'qpdf', can: () => does('qpdf', ['--version']) },
  { pack: 'groff', can: () => does('groff', ['-Tpdf'], { input: 'x\n', check: s => s.startsWith('%PDF') }) },
  {
    pack: 'sox',
    can: () =>
      does('sox', ['-n', '-t', 'wav', '-', 'synth', '0.01', 'sine', '440'], { check: s => s.startsWith('RIFF') }),
  },
]

/** The packages of which something is missing, or cannot do what is needed. */
export const missingPrograms = (wanted = NEEDED.map(n => n.pack)) =>
  NEEDED.filter(n => wanted.includes(n.pack) && !n.can()).map(n => n.pack)

/**
 * Debian's programs that the tests look through: a browser, and independent readers of what is made. They are installed
 * beside what else is done.
 * @param wanted names of Debian's packages; all of them when left out @param talk where to say what is installed
 * @returns a promise of all being there; the process ends when they cannot be
 */
export async function ensurePrograms(wanted = NEEDED.map(n => n.pack), talk = process.stdout) {
  const packs = missingPrograms(wanted)
  if (!packs.length) return
  const give = (why, which) => {
    console.error(`${why}: ${which.join(', ')}. Install them, for example: sudo apt-get install ${which.join(' ')}`)
    process.exit(1)
  }
  if (spawnSync('apt-get', ['--version']).status !== 0 || process.getuid?.() !== 0)
    give('These programs are missing, or cannot do what is needed', packs)
  talk.write(`Installing ${packs.join(', ')}\n`)
  // One shell for both, so that it goes on while this process waits for something else.
  const child = spawn(
    'sh',
    ['-c', `apt-get update -qq && apt-get install -y -qq --no-install-recommends ${packs.join(' ')}`],
    {
      stdio: ['ignore', talk === process.stderr ? 2 : 'inherit', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    },
  )
  const status = await new Promise(resolve => {
    child.on('close', resolve)
  })
  if (status !== 0) give('These programs could not be installed', packs)
  const still = missingPrograms(wanted)
  if (still.length) give('These programs were installed, and still cannot do what is needed', still)
}

const SOURCES = [
  'app',
  'core',
  'workers',
  'server',
  'demo',
  'student',
  'pad',
  'public',
  'scripts/assets.mjs',
  'scripts/tokens.mjs',
  'scripts/licences.mjs',
  'nuxt.config.ts',
  'package-lock.json',
]
const MADE = ['public/pdfjs', 'public/ocr', 'public/demo', 'public/sim', 'public/fonts']

/** A fingerprint of everything that the build is made from. */
function sourceHash() {
  const hash = createHash('sha256')
  const add = path => {
    if (MADE.includes(path) || !existsSync(join(root, path))) return
    if (statSync(join(root, path)).isDirectory())
      for (const name of readdirSync(join(root, path)).sort()) add(`${path}/${name}`)
    else hash.update(path).update(readFileSync(join(root, path)))
  }
  SOURCES.forEach(add)
  return hash.digest('hex')
}

const stamp = join(root, '.output/source-hash')
/** Whether the application is built from its sources as they are. */
export const isBuilt = () => existsSync(stamp) && readFileSync(stamp, 'utf8') === sourceHash()

/** Builds the application when its sources have changed since the last build, and says so. */
export function ensureBuild(talk = process.stdout) {
  if (isBuilt()) return
  talk.write('Building the application: its sources have changed since it was built, or it never was.\n')
  run('npm', ['run', 'build', '--silent'], talk === process.stderr ? 2 : 'inherit')
  writeFileSync(stamp, sourceHash())
}

/** Puts in place what a script in TypeScript needs, and runs it. @returns its exit status */
export function runScript(script, args) {
  // The short names of folders, as the application's own build knows them.
  const settings = join(root, '.nuxt/tsconfig.node.json')
  const alias = existsSync(settings) ? ['--tsconfig', settings] : []
  return (
    spawnSync(process.execPath, [join(root, 'node_modules/tsx/dist/cli.mjs'), ...alias, join(root, script), ...args], {
      stdio: 'inherit',
    }).status ?? 1
  )
}
