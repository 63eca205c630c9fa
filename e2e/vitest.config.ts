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
    // What is on the page comes a moment after what was done: look again until it is so.
    expect: { poll: { timeout: 30_000, interval: 50 } },
    // Each file has a browser of its own; a small machine bears two.
    maxWorkers: 2,
  },
})
