import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBrowser } from './lib/browser.mjs'
import { ensureBuild, ensureDependencies, requireNode, run, tool } from './lib/project.mjs'
import { anyFreePort, serve } from './lib/server.mjs'

requireNode()
// Fetching the browser takes a while on a new machine, but hardly any of its processor.
const installing = ensureBrowser()
await ensureDependencies()

const reports = mkdtempSync(join(tmpdir(), 'deft-lattice-tests-'))
const total = { passed: 0, failed: 0 }

async function stage(name, act) {
  const started = Date.now()
  const { passed, failed, output } = await act()
  total.passed += passed
  total.failed += failed
  const seconds = ((Date.now() - started) / 1000).toFixed(1)
  console.log(`${failed === 0 ? 'ok  ' : 'FAIL'} ${name}: ${passed} passed, ${failed} failed (${seconds} s)`)
  if (failed > 0 && output) console.log(output)
}

/** A command that counts as one check. */
const check = async (command, args) => {
  const { code, output } = await run(command, args, { quiet: true })
  return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, output }
}

/** A run of Vitest, counted test by test. A run that could not start, or found no test, has failed. */
const vitest = async (name, args, env) => {
  const file = join(reports, `${name}.json`)
  const { code, output } = await run(
    tool('vitest'),
    ['run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`],
    { quiet: true, env },
  )
  let counted = { passed: 0, failed: 0 }
  try {
    const report = JSON.parse(readFileSync(file, 'utf8'))
    counted = { passed: report.numPassedTests, failed: report.numFailedTests }
  } catch {
    return { passed: 0, failed: 1, output: `No report was written.\n${output}` }
  }
  const isSilentFailure = counted.failed === 0 && (code !== 0 || counted.passed === 0)
  return { passed: counted.passed, failed: counted.failed + (isSilentFailure ? 1 : 0), output }
}

async function browserTests() {
  const browser = await installing
  if (!browser.ok) return { passed: 0, failed: 1, output: browser.advice }
  const server = await serve(await anyFreePort(), { quiet: true })
  try {
    return await vitest('browser', ['--config', 'e2e/vitest.config.ts'], {
      ...browser.env,
      DEFT_ADDRESS: server.address,
    })
  } finally {
    server.stop()
  }
}

async function buildStage() {
  const { code, output } = await ensureBuild({ quiet: true })
  return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, output }
}

await Promise.all([
  stage('lint', () => check(tool('eslint'), ['.'])),
  stage('types', () => check(tool('nuxt'), ['typecheck'])),
])
await stage('unit tests', () => vitest('unit', []))
// A build keeps one core busy; style is looked at on the other.
await Promise.all([
  stage('build', buildStage),
  stage('format', () => check(tool('prettier'), ['--check', '.'])),
])
await stage('browser tests', browserTests)

console.log(`${total.passed} passed, ${total.failed} failed`)
process.exit(total.failed === 0 ? 0 : 1)
