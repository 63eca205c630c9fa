import { minify, type MinifyOptions } from 'terser'
import { transformWithEsbuild, type Plugin } from 'vite'

/** The smallest that code gets, for what a first visit fetches; it takes ten times as long as esbuild. */
export const SMALLEST: MinifyOptions = { ecma: 2020, compress: { passes: 2 } }

/** The worker that the first visit starts. */
const isAtOnce = (id: string | null): boolean => id?.includes('/analysis.worker') === true

async function smallest(code: string): Promise<string> {
  const { code: small } = await minify(code, { ...SMALLEST, module: true })
  if (small === undefined) throw new Error('The minifier gave no code.')
  return small
}

/**
 * Lets esbuild minify what workers run, but for the one of the first visit: larger by a twentieth as it is sent, for two
 * thirds of the time that a build takes.
 */
export const quickWorkers = (): Plugin => ({
  name: 'quick-workers',
  configResolved(config) {
    Object.assign(config, { build: { ...config.build, minify: false } })
  },
  renderChunk: {
    // After what brings it down to the target, which would lay it out again.
    order: 'post',
    handler: async (code, { fileName, facadeModuleId }) =>
      isAtOnce(facadeModuleId)
        ? { code: await smallest(code), map: null }
        : transformWithEsbuild(code, fileName, {
            minify: true,
            format: 'esm',
            target: 'es2023',
            sourcemap: false,
          }),
  },
})
