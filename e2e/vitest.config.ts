import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineConfig({
  resolve: { alias: { '#core': folder('../core'), '#demo': folder('../demo') } },
  test: {
    root: folder('..'),
    include: ['e2e/**/*.e2e.ts'],
    testTimeout: 90_000,
    hookTimeout: 60_000,
    // Each file has a browser of its own; a small machine bears two.
    maxWorkers: 2,
  },
})
