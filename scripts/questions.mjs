/** Installs what is missing, quietly, and runs the finder, so that its output is JSON and nothing else. */
import { ensurePackages, runScript } from './ensure.mjs'

ensurePackages(process.stderr)
process.exitCode = runScript('scripts/questions.ts', process.argv.slice(2))
