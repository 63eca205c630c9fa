import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineConfig({
  resolve: { alias: { '#core': folder('../core'), '#demo': folder('../demo') } },
  test: {
    root: folder('..'),
    include: ['bench/**/*.bench.ts'],
    globalSetup: ['bench/bundle.ts', 'e2e/support/global-setup.ts'],
    testTimeout: 300_000,
    fileParallelism: false,
    reporters: ['verbose'],
  },
})
