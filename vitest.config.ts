import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineConfig({
  resolve: { alias: { '#core': folder('./core'), '#demo': folder('./demo'), '~': folder('./app') } },
  test: {
    include: [
      'core/**/*.test.ts',
      'demo/**/*.test.ts',
      'app/**/*.test.ts',
      'server/**/*.test.ts',
      'scripts/**/*.test.ts',
      'shared/**/*.test.ts',
    ],
    // Seeds are fixed: a run can be repeated, and a failure prints its seed.
    setupFiles: ['core/testing/setup.ts'],
    testTimeout: process.env.PROVE ? 3_600_000 : 60_000,
    // No test changes what another one sees; with modules of its own for each file they take half as long again.
    isolate: false,
    pool: 'threads',
    // By itself it leaves one core to whoever watches; nobody does.
    maxWorkers: '100%',
  },
})
