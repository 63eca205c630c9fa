import tailwindcss from '@tailwindcss/vite'
import { fileURLToPath } from 'node:url'
import { join } from 'node:path'
import { quickWorkers, SMALLEST } from './scripts/quick-workers'
import { packSmallScripts } from './scripts/small-files'
import { workCode } from './scripts/work-code'
import { SAFE_HEADERS } from './server/lib/headers'

/**
 * Modules that do nothing but define, though they do not say so: a JSON reader that is needed only with a file, and what
 * fetches data for pages, which no page here does.
 */
const isIdle = (id: string): boolean =>
  /jsonc-parser|nuxt\/dist\/app\/composables\/(asyncData|fetch)\.js/.test(id)
const base64 = (what: string | Uint8Array): string => Buffer.from(what).toString('base64')
const folder = (path: string) => fileURLToPath(new URL(path, import.meta.url))

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  ssr: false,
  devtools: { enabled: false },
  telemetry: false,
  experimental: {
    viteEnvironmentApi: true,
    // The build is served whole: there is no newer one to ask for, and no payload to extract.
    appManifest: false,
    payloadExtraction: false,
    defaults: { nuxtLink: { prefetch: false } },
  },
  modules: ['@pinia/nuxt', '@nuxt/eslint', '@vite-pwa/nuxt'],
  eslint: { config: { standalone: true, stylistic: false } },
  alias: { '#core': folder('./core'), '#demo': folder('./demo') },
  components: [{ path: '~/components', pathPrefix: false }],
  css: ['~/assets/main.css'],
  app: {
    head: {
      title: 'Deft Lattice',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        { name: 'description', content: 'Program controller templates without conflicts.' },
      ],
      link: [
        { rel: 'icon', type: 'image/svg+xml', href: '/favicon.svg' },
        { rel: 'manifest', href: '/manifest.webmanifest' },
      ],
    },
  },
  // All that the page may ever need is kept by the browser, so that a stage needs no network.
  pwa: {
    registerType: 'prompt',
    // The page asks for it itself, once it is at rest.
    injectRegister: false,
    client: { registerPlugin: false },
    manifest: {
      name: 'Deft Lattice',
      short_name: 'Deft Lattice',
      description: 'Program controller templates without conflicts.',
      start_url: '/',
      display: 'standalone',
      background_color: '#efece3',
      theme_color: '#efece3',
      icons: [{ src: '/favicon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
    },
    workbox: {
      globPatterns: ['**/*.{js,css,html,svg,wasm,woff,woff2}'],
      maximumFileSizeToCacheInBytes: 8 * 1024 * 1024,
      navigateFallback: '/',
      navigateFallbackDenylist: [/^\/api\//],
      inlineWorkboxRuntime: true,
      cleanupOutdatedCaches: true,
    },
  },
  nitro: {
    compressPublicAssets: { gzip: true },
    prerender: { routes: ['/'] },
    routeRules: { '/**': { headers: { ...SAFE_HEADERS } } },
    alias: { '#core': folder('./core'), '#demo': folder('./demo') },
    virtual: {
      // As base64: what the build replaces in code, it would replace within a text too.
      '#work-code': async () => {
        const { code, files } = await workCode()
        const beside = Object.entries(files).map(([name, bytes]) => [name, base64(bytes)])
        return `export default '${base64(code)}'\nexport const files = ${JSON.stringify(Object.fromEntries(beside))}`
      },
    },
    // It starts its threads from a file of its own, which nothing imports.
    externals: { traceInclude: [folder('./node_modules/tinypool/dist/entry/worker.js')] },
  },
  typescript: {
    strict: true,
    tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } },
  },
  hooks: {
    'nitro:build:public-assets': ({ options }) => packSmallScripts(join(options.output.publicDir, '_nuxt')),
    // What a page does not need yet is fetched when it is needed, not on the first visit.
    'build:manifest': (manifest) => {
      for (const file of Object.values(manifest)) {
        file.prefetch = false
        file.dynamicImports = []
      }
    },
  },
  vite: {
    // No component here, nor of a package, is written with options: Vue leaves out what only they need.
    define: { __VUE_OPTIONS_API__: 'false' },
    // Smaller by a twentieth than what the usual minifier leaves, for some seconds more of building.
    build: {
      target: 'es2023',
      minify: 'terser',
      terserOptions: SMALLEST,
      rollupOptions: { treeshake: { moduleSideEffects: (id) => !isIdle(id) } },
    },
    // Of Dexie the build for browsers of today, which is a thirtieth smaller.
    resolve: { alias: [{ find: /^dexie$/, replacement: 'dexie/dist/modern/dexie.mjs' }] },
    plugins: [tailwindcss()],
    worker: { format: 'es', plugins: () => [quickWorkers()] },
    optimizeDeps: {
      include: [
        '@headlessui/vue',
        '@lucide/vue',
        '@tanstack/vue-virtual',
        '@vueuse/core',
        'comlink',
        'dexie',
        'immer',
        'papaparse',
        'splitpanes',
        'vue-sonner',
        'zod/mini',
      ],
    },
  },
})
