import { fileURLToPath } from 'node:url'
import { build } from 'vite'

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

/** What the server works out in threads, as one module: a thread loads a file, and the server is built into its own. */
export async function workCode(): Promise<string> {
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
  return output.output[0].code
}
