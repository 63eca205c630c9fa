import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { fileURLToPath } from 'node:url'
import { build } from 'vite'
import { FONT_FILES } from '../shared/sheets/font-files'

const folder = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

/** The files that the work of the server looks for beside itself, by the names that it knows them by. */
async function filesBeside(): Promise<Record<string, Uint8Array>> {
  const { resolve } = createRequire(import.meta.url)
  const places: ReadonlyArray<readonly [string, string]> = [
    ['highs.wasm', 'highs/runtime'],
    ['pdfmake.cjs', 'pdfmake/build/pdfmake.min.js'],
    ['exceljs.cjs', 'exceljs/dist/exceljs.min.js'],
    ...Object.entries(FONT_FILES).map(([name, place]) => [`${name}.woff`, place] as const),
  ]
  return Object.fromEntries(
    await Promise.all(places.map(async ([name, place]) => [name, await readFile(resolve(place))] as const)),
  )
}

/**
 * What the server works out in threads, as one module: a thread loads a file, and the server is built into its own. With
 * it the files that the module looks for beside itself.
 */
export async function workCode(): Promise<{ code: string; files: Record<string, Uint8Array> }> {
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
  return { code: output.output[0].code, files: await filesBeside() }
}
