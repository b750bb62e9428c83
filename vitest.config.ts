import { availableParallelism } from 'node:os'
import path from 'node:path'
import { defineConfig } from 'vitest/config'

/** What opens databases, starts processes or serves has modules of its own in each file; all else shares them. */
const apart = ['src/server/**/*.test.ts', 'src/cli/**/*.test.ts', 'src/workers/**/*.test.ts']

export default defineConfig({
  resolve: { alias: { '@': path.resolve(import.meta.dirname, 'src') } },
  test: {
    globalSetup: ['vitest.global.ts'],
    setupFiles: ['vitest.setup.ts'],
    testTimeout: 180_000,
    // Two even on two cores: much of the time goes into waiting for processes and files.
    maxWorkers: Math.max(2, availableParallelism() - 1),
    projects: [
      {
        extends: true,
        test: {
          name: 'shared',
          include: ['src/**/*.test.ts', 'demo/**/*.test.ts'],
          exclude: apart,
          isolate: false,
        },
      },
      { extends: true, test: { name: 'apart', include: apart } },
    ],
  },
})
