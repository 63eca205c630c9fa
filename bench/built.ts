import { pathToFileURL } from 'node:url'
import { resolve } from 'node:path'

/** The core as `bundle.ts` has built it. */
export const builtCore = (): Promise<typeof import('./core')> =>
  import(pathToFileURL(resolve('node_modules/.cache/deft-bench/core.mjs')).href) as Promise<
    typeof import('./core')
  >
