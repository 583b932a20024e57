import { gzipSync } from 'node:zlib'
import { join } from 'node:path'
import { build } from 'esbuild'
import { describe, expect, it } from 'vitest'

const root = join(import.meta.dirname, '../..')
/** What a student's page needs to draw a solution: its lesson, its steps' pictures, its scenes, and both surfaces. */
const ENTRY = ['./core/lesson', './core/edition/stepPicture', './core/recording/board', './core/scene']
  .map(path => `export * from '${path}'`)
  .join('\n')

describe('what draws scenes', () => {
  it('comes without schemas, archives and drafts, in at most 60 kB compressed', async () => {
    const { outputFiles, metafile } = await build({
      stdin: { contents: ENTRY, resolveDir: root, loader: 'ts' },
      bundle: true,
      write: false,
      minify: true,
      format: 'esm',
      metafile: true,
      alias: { '#core': join(root, 'core') },
    })
    const packages = [
      ...new Set(
        Object.keys(metafile.inputs).flatMap(path => /node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(path)?.[1] ?? []),
      ),
    ]
    expect(packages.sort()).toEqual(['hersheytext', 'perfect-freehand'])
    expect(gzipSync(outputFiles[0]!.contents).length).toBeLessThanOrEqual(58 * 1024)
  })
})
