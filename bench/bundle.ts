import { fileURLToPath } from 'node:url'
import { build } from 'vite'

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

/**
 * Builds `bench/core.ts` into one file before the benchmarks run. A test runner reaches through a wrapper for
 * every function of another module, which is no small part of what a tight loop takes; the application does not.
 */
export default async function bundle(): Promise<void> {
  await build({
    configFile: false,
    root: folder('..'),
    logLevel: 'error',
    resolve: { alias: { '#core': folder('../core'), '#demo': folder('../demo') } },
    ssr: { noExternal: true },
    build: {
      ssr: folder('core.ts'),
      outDir: folder('../node_modules/.cache/deft-bench'),
      emptyOutDir: true,
      target: 'node20',
      rollupOptions: { output: { entryFileNames: 'core.mjs' } },
    },
  })
}
