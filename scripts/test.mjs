/**
 * Everything that has to hold: lint, types, unit tests, build, end to end. Installs what is missing first.
 * The browser's tests wait for clocks most of their time; what needs no browser is checked beside the first of them.
 */
import { spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { ensureBuild, ensurePackages, ensurePrograms, root } from './ensure.mjs'

const programs = ensurePrograms()
ensurePackages()

/**
 * End-to-end files by lane, in their order; a browser waits for clocks half of its time, so that two share two cores.
 * The last files of the first lane measure time: the second has its heavy ones, which render, behind it by then.
 */
const LANES = [
  ['path', 'proof', 'student', 'solving', 'camera', 'recording'],
  [
    'classSite',
    'publish',
    'badInput',
    'edited',
    'attack',
    'handIn',
    'export',
    'licences',
    'pages',
    'safety',
    'scene',
    'screens',
  ],
].map(names => names.map(name => `tests/e2e/${name}.test.ts`))
const forgotten = readdirSync(join(root, 'tests/e2e')).filter(f => !LANES.flat().includes(`tests/e2e/${f}`))
if (forgotten.length) throw new Error(`in no lane of scripts/test.mjs: ${forgotten.join(', ')}`)

/** So many failed files may be the machine's fault; more are the change's. */
const MOST_AGAIN = 3

const running = new Set()

/**
 * Runs one step; with `quiet`, what it says is kept until it is done, so that steps side by side do not mix their
 * words.
 * @throws when it fails
 */
function run(name, quiet, ...args) {
  const began = Date.now()
  return new Promise((resolve, reject) => {
    const child = spawn(args[0], args.slice(1), { cwd: root, stdio: quiet ? ['ignore', 'pipe', 'pipe'] : 'inherit' })
    running.add(child)
    const said = []
    child.stdout?.on('data', d => said.push(d))
    child.stderr?.on('data', d => said.push(d))
    child.on('close', status => {
      running.delete(child)
      console.log(`\n== ${name}: ${Math.round((Date.now() - began) / 1000)} s`)
      if (quiet) process.stdout.write(Buffer.concat(said))
      if (status === 0) resolve()
      else reject(new Error(`${name} failed`))
    })
  })
}
const local = (...args) => ['npx', '--no-install', ...args]
/** What can wait gives way to what measures time. */
const patient = (...args) => ['nice', '-n', '15', ...local(...args)]

const reports = mkdtempSync(join(tmpdir(), 'orthograph-tests-'))

/** The files in which a run of tests says that something failed; null when it failed in another way. */
function failedFiles(report) {
  try {
    const { testResults } = JSON.parse(readFileSync(report, 'utf8'))
    const failed = testResults.filter(r => r.status !== 'passed').map(r => relative(root, r.name))
    return failed.length ? failed : null
  } catch {
    return null
  }
}

/**
 * Tests on a machine that is busy with others beside them. What fails there is not yet said to be wrong: its files are
 * run once more, alone, when all is quiet. @returns those files
 */
async function tests(name, quiet, command, ...args) {
  const report = join(reports, `${name.replaceAll(' ', '-')}.json`)
  try {
    await run(
      name,
      quiet,
      ...command('vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...args),
    )
    return []
  } catch (error) {
    const failed = failedFiles(report)
    if (!failed || failed.length > MOST_AGAIN) throw error
    return failed
  }
}

try {
  await run('prepare', true, ...local('nuxt', 'prepare'))
  await programs
  ensureBuild()
  const checks = async () => {
    await run('lint', true, ...patient('eslint', '.', '--max-warnings', '0'))
    await run('types', true, ...patient('vue-tsc', '-b', '--noEmit'))
    return tests('unit tests', true, patient, '--project', 'unit', '--project', 'stores', '--maxWorkers', '2')
  }
  const lanes = LANES.map((files, i) => tests(`end to end, lane ${i + 1}`, i > 0, local, '--project', 'e2e', ...files))
  const again = (await Promise.all([checks(), ...lanes])).flat()
  if (again.length > MOST_AGAIN) throw new Error(`failed: ${again.join(', ')}`)
  if (again.length) {
    console.log(`\n== once more, alone: ${again.join(', ')}`)
    await run('once more', false, ...local('vitest', 'run', ...again))
    console.log(`\nFailed on the busy machine, and passed alone: ${again.join(', ')}`)
  }
} catch (error) {
  console.error(error.message)
  for (const child of running) child.kill()
  process.exitCode = 1
} finally {
  rmSync(reports, { recursive: true, force: true })
}
