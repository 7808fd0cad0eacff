import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { tsconfigPaths: true },
  test: {
    include: ['core/**/*.test.ts', 'cli/**/*.test.ts', 'app/**/*.test.{ts,tsx}', 'demo/**/*.test.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    setupFiles: ['cli/node-assets.ts'],
    pool: 'forks',
    // The machines that run this have two cores and nothing else to do.
    maxWorkers: 2,
  },
})
