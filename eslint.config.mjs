import prettier from 'eslint-config-prettier'
import withNuxt from './.nuxt/eslint.config.mjs'

/** The folders of core, each of which may import those before it and none of those after it. */
const CORE_FOLDERS = [
  'midi',
  'rig',
  'addresses',
  'values',
  'lights',
  'mappings',
  'conflicts',
  'allocate',
  'listen',
  'bench',
  'history',
  'sheets',
]

const OUTSIDE_CORE = [
  {
    regex:
      '^(~|@|#app|#imports|#demo|node:|vue|pinia|nuxt|h3|nitropack|dexie|comlink|@vueuse|@headlessui)(/|$|:)',
    message: 'core knows nothing of the application, the browser, Node or storage.',
  },
  { regex: '^(\\.\\./)+(app|server|demo|e2e)(/|$)', message: 'core imports nothing of theirs.' },
  {
    // core/bench is another folder of this name: what the benchmarks are made of is named by its files.
    regex: '^(\\.\\./)+bench/(built|bundle|core|desk-work|first-load|vitest\\.config|[a-z-]+\\.bench)$',
    message: 'core imports nothing of the benchmarks.',
  },
]

const coreDirection = CORE_FOLDERS.map((folder, index) => {
  const later = CORE_FOLDERS.slice(index + 1)
  const patterns = [...OUTSIDE_CORE]
  if (later.length > 0) {
    patterns.push({
      regex: `^(\\.\\./)+(${later.join('|')})(/|$)`,
      message: `core/${folder} may import only the folders before it (see docs/architecture.md).`,
    })
  }
  return {
    name: `direction/core/${folder}`,
    files: [`core/${folder}/**/*.ts`],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns }] },
  }
})

export default withNuxt(
  { ignores: ['.output/**', '.nuxt/**', 'docs/**'] },
  ...coreDirection,
  {
    name: 'direction/demo',
    files: ['demo/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '(^~|/app/|/server/|^node:)', message: 'demo is data for core.' }] },
      ],
    },
  },
  {
    name: 'direction/app',
    files: ['app/**/*.{ts,vue}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: '(/server/|^#server)', message: 'the app speaks to the server over its routes.' },
          ],
        },
      ],
    },
  },
  {
    name: 'direction/server',
    files: ['server/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: '(/app/|^~|^vue|^pinia|^dexie)', message: 'the server knows nothing of the page.' },
          ],
        },
      ],
    },
  },
  {
    name: 'habits',
    files: ['**/*.{ts,vue,mjs}'],
    rules: {
      eqeqeq: ['error', 'always'],
      'no-console': ['error', { allow: ['error'] }],
      'no-empty': 'error',
      'vue/multi-word-component-names': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    name: 'scripts-and-tests',
    files: ['scripts/**', 'bench/**', 'e2e/**', '**/*.test.ts'],
    rules: { 'no-console': 'off', '@typescript-eslint/no-explicit-any': 'off' },
  },
  prettier,
)
