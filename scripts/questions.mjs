/** Installs what is missing, quietly, and runs the finder, so that its output is JSON and nothing else. */
import { spawnSync } from 'node:child_process'
import { ensurePackages, root } from './ensure.mjs'

ensurePackages(process.stderr)
const files = process.argv.slice(2)
const { status } = spawnSync(process.execPath, [`${root}node_modules/tsx/dist/cli.mjs`, `${root}scripts/questions.ts`, ...files], { stdio: 'inherit' })
process.exitCode = status ?? 1
