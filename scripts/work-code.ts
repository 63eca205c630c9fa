import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { build } from 'vite'

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

/**
 * What the server works out in threads, as one module: a thread loads a file, and the server is built into its own. With
 * it `highs.wasm`, which the module looks for beside itself.
 */
export async function workCode(): Promise<{ code: string; runtime: Uint8Array }> {
  const built = await build({
    configFile: false,
    root: folder('..'),
    logLevel: 'error',
    resolve: { alias: { '#core': folder('../core'), '#demo': folder('../demo') } },
    ssr: { noExternal: true },
    build: {
      ssr: folder('../server/lib/work.ts'),
      write: false,
      target: 'node20',
      rollupOptions: { output: { inlineDynamicImports: true } },
    },
  })
  const [output] = Array.isArray(built) ? built : [built]
  if (!output || !('output' in output)) throw new Error('The work of the server could not be built.')
  const runtime = createRequire(import.meta.url).resolve('highs/runtime')
  return { code: output.output[0].code, runtime: await readFile(runtime) }
}
