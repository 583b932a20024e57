/** Lines of code and of tests by folder (blank lines left out), and the tests' share. */
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

const files = execFileSync('git', ['ls-files', '*.ts', '*.vue', '*.mjs', '*.js', '*.css'], { encoding: 'utf8' })
  .split('\n')
  .filter(Boolean)
const count = file =>
  readFileSync(file, 'utf8')
    .split('\n')
    .filter(line => line.trim()).length
const folders = new Map()
for (const file of files) {
  const folder = file.includes('/')
    ? file
        .split('/')
        .slice(0, file.startsWith('core/') || file.startsWith('tests/') || file.startsWith('app/') ? 2 : 1)
        .join('/')
    : '(root)'
  const row = folders.get(folder) ?? { files: 0, lines: 0 }
  row.files++
  row.lines += count(file)
  folders.set(folder, row)
}
const rows = [...folders].sort(([a], [b]) => a.localeCompare(b))
for (const [folder, { files: n, lines }] of rows)
  console.log(`${folder.padEnd(24)} ${String(n).padStart(4)} files ${String(lines).padStart(6)} lines`)
const tests = rows.filter(([f]) => f.startsWith('tests')).reduce((s, [, r]) => s + r.lines, 0)
const all = rows.reduce((s, [, r]) => s + r.lines, 0)
console.log(
  `\ncode ${all - tests}, tests ${tests}: ${Math.round((100 * tests) / (all - tests))} lines of tests for 100 of code`,
)
