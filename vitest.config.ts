import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url))
const alias = { '#core': at('./core'), '~': at('./app') }

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: { name: 'unit', environment: 'node', include: ['tests/**/*.test.ts'], exclude: ['tests/e2e/**'], testTimeout: 20_000 },
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
