/** Everything that has to hold: lint, types, unit tests, build, end to end. Installs what is missing first. */
import { spawnSync } from 'node:child_process'
import { ensureBuild, ensurePackages, ensurePrograms, root } from './ensure.mjs'

ensurePackages()
ensurePrograms()

function step(name, ...args) {
  const began = Date.now()
  console.log(`\n== ${name}`)
  const { status } = spawnSync('npx', ['--no-install', ...args], { cwd: root, stdio: 'inherit' })
  console.log(`== ${name}: ${Math.round((Date.now() - began) / 1000)} s`)
  if (status !== 0) {
    console.error(`${name} failed`)
    process.exit(status ?? 1)
  }
}

step('prepare', 'nuxt', 'prepare')
step('lint', 'eslint', '.', '--max-warnings', '0')
step('types', 'vue-tsc', '-b', '--noEmit')
step('unit tests', 'vitest', 'run', '--project', 'unit')
ensureBuild()
step('end to end', 'vitest', 'run', '--project', 'e2e')
