/**
 * Runs a script that drives the built application in a browser: installs and builds first what is missing.
 * `node scripts/with-app.mjs SCRIPT.ts [ARGUMENTS]`
 */
import { ensureBuild, ensurePackages, ensurePrograms, runScript } from './ensure.mjs'

const [script, ...args] = process.argv.slice(2)
const programs = ensurePrograms()
ensurePackages()
await programs
ensureBuild()
process.exitCode = runScript(script, args)
