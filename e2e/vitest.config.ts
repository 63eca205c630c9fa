import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url))
const isSlower = process.env.DEFT_SLOWER !== undefined

export default defineConfig({
  resolve: { alias: { '#core': folder('../core'), '#demo': folder('../demo') } },
  test: {
    root: folder('..'),
    include: ['e2e/**/*.e2e.ts'],
    globalSetup: ['e2e/support/global-setup.ts'],
    testTimeout: isSlower ? 300_000 : 120_000,
    hookTimeout: 60_000,
    // What is on the page comes a moment after what was done: look again until it is so.
    expect: { poll: { timeout: isSlower ? 60_000 : 30_000, interval: 20 } },
    // A worker keeps its browser from file to file.
    isolate: false,
    pool: 'threads',
    maxWorkers: 2,
  },
})
