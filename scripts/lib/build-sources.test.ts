import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { hashOfSources } from './build-sources.mjs'

let root = ''
const write = (path: string, text: string): void => {
  mkdirSync(dirname(join(root, path)), { recursive: true })
  writeFileSync(join(root, path), text)
}
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'deft-sources-'))
  write('app/page.vue', 'a')
})
afterEach(() => rmSync(root, { recursive: true }))

it.each([
  'app/page.vue',
  'core/midi/tags.ts',
  'shared/sheets/pdf.ts',
  'scripts/small-files.ts',
  'server/routes/health.ts',
  'nuxt.config.ts',
  'package.json',
  'a-folder-that-comes-later/file.ts',
])('a build is stale once %s has changed', (path) => {
  write(path, 'before')
  const before = hashOfSources(root)
  write(path, 'after')
  expect(hashOfSources(root)).not.toBe(before)
})

it.each([
  'core/midi/tags.test.ts',
  'e2e/slice.e2e.ts',
  'docs/guide.md',
  'core/testing/rigs.ts',
  'core/tsconfig.tsbuildinfo',
  'README.md',
])('a build stays fresh when %s has changed', (path) => {
  const before = hashOfSources(root)
  write(path, 'new')
  expect(hashOfSources(root)).toBe(before)
})
