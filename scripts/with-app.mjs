/**
 * Runs a script that drives the built application in a browser: installs and builds first what is missing, and says so.
 * `node scripts/with-app.mjs SCRIPT.ts [--no-build] [ARGUMENTS]`; with `--no-build` the application is taken as it was
 * built last.
 */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuild, ensurePackages, ensurePrograms, isBuilt, root, runScript } from './ensure.mjs'

const [script, ...given] = process.argv.slice(2)
const noBuild = given.includes('--no-build')
const args = given.filter(a => a !== '--no-build')
if (noBuild && !existsSync(join(root, '.output/server/index.mjs'))) {
  console.error('The application was never built: leave --no-build out, or run npm run build first.')
  process.exit(1)
}
const programs = ensurePrograms()
ensurePackages()
await programs
if (noBuild) {
  if (!isBuilt()) console.error('The application is taken as it was built last; its sources have changed since.')
} else ensureBuild(process.stderr)
process.exitCode = runScript(script, args)
