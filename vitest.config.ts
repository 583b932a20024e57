import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url))
const alias = { '#core': at('./core'), '~': at('./app') }

export default defineConfig({
  test: {
    // As many as there are cores; left to itself, Vitest keeps one of two for watching files.
    maxWorkers: availableParallelism(),
    projects: [
      {
        resolve: { alias },
        test: { name: 'unit', environment: 'node', include: ['tests/**/*.test.ts'], exclude: ['tests/e2e/**'], testTimeout: 20_000, isolate: false },
      },
      {
        resolve: { alias },
        test: {
          name: 'e2e', environment: 'node', include: ['tests/e2e/**/*.test.ts'],
          fileParallelism: false, testTimeout: 90_000, hookTimeout: 60_000,
        },
      },
    ],
  },
})
