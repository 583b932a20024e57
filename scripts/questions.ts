/**
 * `npm run questions -- FILE.pdf …`: prints a JSON array with one object a file.
 * A file that cannot be read gives `{file, questions: [], error}` and exit code 1; the others are still printed.
 */
import { questionsOf } from './pdfText'

// Standard output is the JSON alone; what pdf.js has to say goes to the other.
console.log = console.error

const files = process.argv.slice(2)
if (!files.length) {
  console.error('Which file? npm run questions -- FILE.pdf …')
  process.exit(2)
}
const found = []
for (const file of files) {
  try {
    found.push(await questionsOf(file))
  } catch (cause) {
    const error = cause instanceof Error ? cause.message : String(cause)
    console.error(`${file} cannot be read: ${error}`)
    found.push({ file, questions: [], error })
    process.exitCode = 1
  }
}
process.stdout.write(`${JSON.stringify(found, null, 1)}\n`)
