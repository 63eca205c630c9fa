import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { hashOfSources } from './build-sources.mjs'

export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))))
const at = (path) => join(ROOT, path)

const OLDEST_NODE = [20, 19]

/** Stop with a sentence if this Node.js is too old. */
export function requireNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major > OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor >= OLDEST_NODE[1])) return
  fail(`Deft Lattice needs Node.js ${OLDEST_NODE.join('.')} or newer; this is ${process.versions.node}.`)
}

export function fail(sentence) {
  console.error(sentence)
  process.exit(1)
}

/** Run a command; its output goes through, or is kept where `quiet`. Gives the exit code and what was kept. */
export function run(command, args, { quiet = false, env = {} } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'inherit', 'inherit'],
    })
    let output = ''
    const keep = (chunk) => {
      output += chunk
    }
    child.stdout?.on('data', keep)
    child.stderr?.on('data', keep)
    child.on('error', (error) => resolve({ code: 127, output: String(error) }))
    child.on('close', (code) => resolve({ code: code ?? 1, output }))
  })
}

/** A program that a dependency brings. */
export const tool = (name) => at(join('node_modules', '.bin', name))

const hashOf = (paths) => {
  const hash = createHash('sha256')
  for (const path of paths) hash.update(relative(ROOT, path)).update(readFileSync(path))
  return hash.digest('hex')
}

/** Install the locked dependencies if they are missing or the lock file has changed. */
export async function ensureDependencies() {
  const stamp = at('node_modules/.deft-lock')
  const wanted = hashOf([at('package-lock.json')])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted && existsSync(at('.nuxt/tsconfig.json')))
    return
  console.log('Installing the locked dependencies; this takes a minute or two…')
  const install = await run('npm', ['ci', '--no-audit', '--no-fund'])
  if (install.code !== 0) fail('The dependencies could not be installed; npm says why above.')
  const prepare = await run(tool('nuxt'), ['prepare'], { quiet: true })
  if (prepare.code !== 0) fail(`The project could not be prepared:\n${prepare.output}`)
  writeFileSync(stamp, wanted)
}

/** Build if anything that goes into the build has changed since the last one. Gives whether it stands. */
export async function ensureBuild({ quiet = false } = {}) {
  const stamp = at('.output/.deft-build')
  const wanted = hashOfSources(ROOT)
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return { code: 0, output: '' }
  if (!quiet) console.log('Building; this takes a few minutes…')
  const build = await run(tool('nuxt'), ['build'], { quiet: true, env: { NODE_ENV: 'production' } })
  if (build.code === 0) writeFileSync(stamp, wanted)
  return build
}
