/** Everything that has to hold: lint, types, unit tests, build, end to end. Installs what is missing first. */
import { spawn } from 'node:child_process'
import { ensureBuild, ensurePackages, ensurePrograms, root } from './ensure.mjs'

const programs = ensurePrograms()
ensurePackages()

/** Runs one step; with `quiet`, what it says is kept until it is done, so that steps side by side do not mix their words. */
function run(name, args, quiet) {
  const began = Date.now()
  return new Promise((resolve) => {
    const child = spawn(args[0], args.slice(1), { cwd: root, stdio: quiet ? ['ignore', 'pipe', 'pipe'] : 'inherit' })
    const said = []
    child.stdout?.on('data', d => said.push(d))
    child.stderr?.on('data', d => said.push(d))
    child.on('close', (status) => {
      console.log(`\n== ${name}: ${Math.round((Date.now() - began) / 1000)} s`)
      if (quiet) process.stdout.write(Buffer.concat(said))
      resolve({ name, status })
    })
  })
}

/** Steps side by side: there are two cores. Ends the run when one fails. */
async function together(...steps) {
  const done = await Promise.all(steps.map(([name, ...args]) => run(name, args, steps.length > 1)))
  const failed = done.find(d => d.status !== 0)
  if (!failed) return
  console.error(`${failed.name} failed`)
  process.exit(failed.status || 1)
}
const local = (...args) => ['npx', '--no-install', ...args]

await together(['prepare', ...local('nuxt', 'prepare')])
await together(['lint', ...local('eslint', '.', '--max-warnings', '0')], ['types', ...local('vue-tsc', '-b', '--noEmit')])
await programs
// The build makes its own folder anew, which tests read their settings from: the two go one after the other.
await together(['unit tests', ...local('vitest', 'run', '--project', 'unit')])
ensureBuild()
await together(['end to end', ...local('vitest', 'run', '--project', 'e2e')])
