import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { basename } from 'node:path'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url))
const alias = { '#core': at('./core'), '~': at('./app') }

/** End-to-end files in their order: those that measure time come last, when nothing else runs beside them any more. */
const LAST = ['path', 'solving', 'camera', 'recording']
class QuietLast extends BaseSequencer {
  override async sort(files: TestSpecification[]) {
    const place = (file: TestSpecification) => LAST.indexOf(basename(file.moduleId).replace('.test.ts', ''))
    return [...files].sort((a, b) => place(a) - place(b) || a.moduleId.localeCompare(b.moduleId))
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: QuietLast },
    // As many as there are cores; left to itself, Vitest keeps one of two for watching files.
    maxWorkers: availableParallelism(),
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          environment: 'node',
          include: ['tests/**/*.test.ts'],
          exclude: ['tests/e2e/**', 'tests/stores/**'],
          testTimeout: 60_000,
          isolate: false,
        },
      },
      {
        // Stores of the interface, with simulated devices and a database in memory; each file has modules of its own.
        resolve: { alias },
        test: {
          name: 'stores',
          environment: 'node',
          include: ['tests/stores/**/*.test.ts'],
          setupFiles: 'tests/stores/setup.ts',
          testTimeout: 60_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'e2e',
          environment: 'node',
          include: ['tests/e2e/**/*.test.ts'],
          globalSetup: 'tests/support/seed.ts',
          fileParallelism: false,
          isolate: false,
          testTimeout: 240_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
})
