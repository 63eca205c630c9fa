import { transformWithEsbuild, type Plugin } from 'vite'

/** Lets esbuild minify what workers run: larger by a hundredth, for two thirds of the time that a build takes. */
export const quickWorkers = (): Plugin => ({
  name: 'quick-workers',
  configResolved(config) {
    Object.assign(config, { build: { ...config.build, minify: false } })
  },
  renderChunk: {
    // After what brings it down to the target, which would lay it out again.
    order: 'post',
    handler: (code, { fileName }) =>
      transformWithEsbuild(code, fileName, {
        minify: true,
        format: 'esm',
        target: 'es2023',
        sourcemap: false,
      }),
  },
})
