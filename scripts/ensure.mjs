/**
 * Installs what is missing on a fresh machine. Uses nothing but Node itself, as it runs before anything is installed.
 */
import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { existsSync, readFileSync, statSync, readdirSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join } from 'node:path'

export const root = new URL('..', import.meta.url).pathname
const run = (command, args, out = 'inherit') => execFileSync(command, args, { cwd: root, stdio: ['inherit', out, 'inherit'] })
const has = command => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0
const hashOf = text => createHash('sha256').update(text).digest('hex')

/** Registry packages, when they are missing or the lock file has changed since. @param talk where to say so, so that a command's own output stays clean */
export function ensurePackages(talk = process.stdout) {
  const stamp = join(root, 'node_modules/.orthograph-installed')
  const lock = hashOf(readFileSync(join(root, 'package-lock.json')))
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  talk.write('Installing packages\n')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], talk)
  writeFileSync(stamp, lock)
}

/**
 * Debian's programs that the tests look through: a browser, and independent readers of what is made. They are installed beside what else is done.
 * @returns a promise of all being there; the process ends when they cannot be
 */
export function ensurePrograms() {
  const wanted = { 'chromium': 'chromium', 'ffmpeg': 'ffmpeg', 'ffprobe': 'ffmpeg', 'pdftotext': 'poppler-utils', 'qpdf': 'qpdf', 'groff': 'groff', 'sox': 'sox' }
  const missing = [...new Set(Object.entries(wanted).filter(([command]) => !has(command) && !(command === 'chromium' && process.env.CHROMIUM)).map(([, pack]) => pack))]
  if (!missing.length) return Promise.resolve()
  const give = (why) => {
    console.error(`${why}: ${missing.join(', ')}. Install them, for example: sudo apt-get install ${missing.join(' ')}`)
    process.exit(1)
  }
  if (!has('apt-get') || process.getuid?.() !== 0) give('These programs are missing')
  console.log(`Installing ${missing.join(', ')}`)
  // One shell for both, so that it goes on while this process waits for something else.
  const child = spawn('sh', ['-c', `apt-get update -qq && apt-get install -y -qq --no-install-recommends ${missing.join(' ')}`], { stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  return new Promise((resolve) => { child.on('close', status => status === 0 ? resolve() : give('These programs could not be installed')) })
}

const SOURCES = ['app', 'core', 'workers', 'server', 'demo', 'student', 'public', 'scripts/assets.mjs', 'nuxt.config.ts', 'package-lock.json']
const MADE = ['public/pdfjs', 'public/ocr', 'public/demo', 'public/sim']

/** A fingerprint of everything that the build is made from. */
function sourceHash() {
  const hash = createHash('sha256')
  const add = (path) => {
    if (MADE.includes(path) || !existsSync(join(root, path))) return
    if (statSync(join(root, path)).isDirectory()) for (const name of readdirSync(join(root, path)).sort()) add(`${path}/${name}`)
    else hash.update(path).update(readFileSync(join(root, path)))
  }
  SOURCES.forEach(add)
  return hash.digest('hex')
}

/** Builds the application when its sources have changed since the last build. */
export function ensureBuild() {
  const stamp = join(root, '.output/source-hash')
  const hash = sourceHash()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return
  console.log('Building the application')
  run('npm', ['run', 'build', '--silent'])
  writeFileSync(stamp, hash)
}
