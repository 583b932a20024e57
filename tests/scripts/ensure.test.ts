import { execFileSync } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { delimiter, join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'

/** Programs are asked for what they can do. */
const dir = mkdtempSync(join(tmpdir(), 'orthograph-programs-'))
afterAll(() => rmSync(dir, { recursive: true }))
const root = join(import.meta.dirname, '../..')
function missing(path: string): string[] {
  const script = `import { missingPrograms } from '${root}/scripts/ensure.mjs'; console.log(JSON.stringify(missingPrograms(['groff', 'ffmpeg', 'sox', 'qpdf'])))`
  return JSON.parse(
    execFileSync(process.execPath, ['--input-type=module', '-e', script], { encoding: 'utf8', env: { PATH: path } }),
  ) as string[]
}

describe('programs that the tests look through', () => {
  it('are there on a machine that has them', () => expect(missing(process.env.PATH!)).toEqual([]))
  it('that answer to their name and cannot do what is needed are installed: groff without its PDF device, ffmpeg without its coders', () => {
    const fake = (name: string, script: string) => {
      writeFileSync(join(dir, name), `#!/bin/sh\n${script}\n`)
      chmodSync(join(dir, name), 0o755)
    }
    fake(
      'groff',
      'case "$1" in --version) echo "GNU groff version 1.22.4";; *) echo "invalid device" >&2; exit 1;; esac',
    )
    fake('ffmpeg', 'echo "ffmpeg version 5"')
    expect(missing([dir, process.env.PATH!].join(delimiter))).toEqual(['ffmpeg', 'groff'])
    expect(missing(dir)).toEqual(['ffmpeg', 'qpdf', 'groff', 'sox'])
  })
})
