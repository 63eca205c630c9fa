import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { join, relative } from 'node:path'

/** Folders of which nothing goes into the build. All others count, also those that come later. */
const OUTSIDE = new Set([
  '.git',
  '.ci',
  '.nuxt',
  '.output',
  '.data',
  'node_modules',
  'bench',
  'docs',
  'e2e',
  'testing',
])
const isOutside = (name) => /\.test\.ts$|\.md$|\.log$|\.tsbuildinfo$/.test(name)

function* filesUnder(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) {
      if (!OUTSIDE.has(entry.name)) yield* filesUnder(path)
    } else if (entry.isFile() && !isOutside(entry.name)) yield path
  }
}

/** A hash of every file of a project that its build may read: a build is fresh as long as this is the same. */
export function hashOfSources(root) {
  const hash = createHash('sha256')
  for (const path of [...filesUnder(root)].sort())
    hash.update(`${relative(root, path)}\0`).update(readFileSync(path))
  return hash.digest('hex')
}
