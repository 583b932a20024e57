/**
 * Everything that has to hold: lint, types, unit tests, build, end to end. Installs what is missing first.
 * The browser's tests wait for clocks most of their time; what needs no browser is checked beside the first of them.
 */
import { spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensurePackages, ensurePrograms, root } from './ensure.mjs'

const programs = ensurePrograms()
ensurePackages()

/**
 * End-to-end files by lane, in their order; a browser waits for clocks half of its time, so that two share two cores.
 * Each lane needs one shelf only (tests/support/seed.ts): all of the sample in the first, three questions in the second.
 * The last files of the first lane measure time: the second has its heavy ones, which render, behind it by then.
 */
const LANES = [
  ['path', 'proof', 'screens', 'attack', 'badInput', 'pages', 'solving', 'camera', 'recording'],
  ['classSite', 'publish', 'edited', 'student', 'export', 'handIn', 'licences', 'safety', 'scene'],
].map(names => names.map(name => `tests/e2e/${name}.test.ts`))
const forgotten = readdirSync(join(root, 'tests/e2e')).filter(f => !LANES.flat().includes(`tests/e2e/${f}`))
if (forgotten.length) throw new Error(`in no lane of scripts/test.mjs: ${forgotten.join(', ')}`)

const running = new Set()
/** How long each step took, s. */
const took = []
const began = Date.now()

/** Ends a step with all that it started, browsers and servers too: they have its mark in their environment. */
function end({ mark }) {
  for (const pid of readdirSync('/proc').filter(name => /^\d+$/.test(name)))
    try {
      if (readFileSync(`/proc/${pid}/environ`).includes(mark)) process.kill(Number(pid), 'SIGKILL')
    } catch {
      /* It is gone, or is nobody's of this run. */
    }
}
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    for (const child of running) end(child)
    process.exit(1)
  })

/**
 * Runs one step; with `quiet`, what it says is kept until it is done, so that steps side by side do not mix their
 * words.
 * @throws when it fails
 */
function run(name, quiet, ...args) {
  const began = Date.now()
  const mark = randomUUID()
  return new Promise((resolve, reject) => {
    const child = spawn(args[0], args.slice(1), {
      cwd: root,
      env: { ...process.env, ORTHOGRAPH_STEP: mark },
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : 'inherit',
    })
    child.mark = `ORTHOGRAPH_STEP=${mark}`
    running.add(child)
    const said = []
    child.stdout?.on('data', d => said.push(d))
    child.stderr?.on('data', d => said.push(d))
    child.on('close', status => {
      running.delete(child)
      // What it left running is ended with it.
      end(child)
      const seconds = Math.round((Date.now() - began) / 1000)
      took.push([name, seconds])
      console.log(`\n== ${name}: ${seconds} s`)
      if (quiet) process.stdout.write(Buffer.concat(said))
      if (status === 0) resolve()
      else reject(new Error(`${name} failed`))
    })
  })
}
const local = (...args) => ['npx', '--no-install', ...args]
/** What can wait gives way to what measures time. */
const patient = (...args) => ['nice', '-n', '15', ...local(...args)]

const tests = (name, quiet, command, ...args) => run(name, quiet, ...command('vitest', 'run', ...args))

try {
  await run('prepare', true, ...local('nuxt', 'prepare'))
  await run('assets', true, 'npm', 'run', 'assets', '--silent')
  await programs
  // The build keeps one core busy; unit tests need nothing of it.
  await Promise.all([
    run(
      'build',
      true,
      process.execPath,
      '--input-type=module',
      '-e',
      "(await import('./scripts/ensure.mjs')).ensureBuild()",
    ),
    tests('unit tests', true, patient, '--project', 'unit', '--project', 'stores', '--maxWorkers', '2'),
  ])
  const checks = async () => {
    await run('lint', true, ...patient('eslint', '.', '--max-warnings', '0'))
    await run('types', true, 'nice', '-n', '15', 'npm', 'run', 'types', '--silent')
  }
  const lanes = LANES.map((files, i) => tests(`end to end, lane ${i + 1}`, i > 0, local, '--project', 'e2e', ...files))
  await Promise.all([checks(), ...lanes])
} catch (error) {
  console.error(error.message)
  for (const child of running) end(child)
  process.exitCode = 1
} finally {
  const all = [...took, ['all of it', Math.round((Date.now() - began) / 1000)]]
  console.log(
    `\nTime, some of it side by side:\n${all.map(([name, s]) => `${String(s).padStart(6)} s  ${name}`).join('\n')}`,
  )
}
