import { availableParallelism } from 'node:os'
import path from 'node:path'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': path.resolve(import.meta.dirname, 'src') } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts'],
    globalSetup: ['vitest.global.ts'],
    setupFiles: ['vitest.setup.ts'],
    testTimeout: 180_000,
    // Two even on two cores: much of the time goes into waiting for processes and files.
    maxWorkers: Math.max(2, availableParallelism() - 1),
  },
})
