/**
 * Starts the built application. It can be reached from this machine only, unless HOST names another address of it
 * (0.0.0.0 for all); from elsewhere, publishing asks for the key that is made at the first start.
 */
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './ensure.mjs'

process.env.HOST ||= '127.0.0.1'
const entry = join(root, '.output/server/index.mjs')
if (!existsSync(entry)) {
  console.error('The application is not built yet: npm run build, or npm run demo for everything at once.')
  process.exit(1)
}
await import(entry)
