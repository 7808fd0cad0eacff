import { defineConfig } from 'vitest/config'

const shared = {
  testTimeout: 120_000,
  hookTimeout: 120_000,
  setupFiles: ['cli/node-assets.ts'],
  pool: 'forks' as const,
}

export default defineConfig({
  test: {
    // The machines that run this have two cores and nothing else to do.
    maxWorkers: 2,
    projects: [
      {
        resolve: { tsconfigPaths: true },
        test: {
          ...shared,
          name: 'core',
          include: ['core/**/*.test.ts', 'cli/**/*.test.ts', 'demo/**/*.test.ts', 'server/**/*.test.ts'],
          // Core has no state of its own but what it remembers by value: one worker loads it once for all files.
          isolate: false,
        },
      },
      {
        resolve: { tsconfigPaths: true },
        test: { ...shared, name: 'app', include: ['app/**/*.test.ts'] },
      },
      {
        resolve: { tsconfigPaths: true },
        test: {
          ...shared,
          name: 'screens',
          include: ['app/**/*.test.tsx'],
          environment: 'happy-dom',
          setupFiles: [...shared.setupFiles, 'app/test-support/after-each.ts'],
        },
      },
    ],
  },
})
