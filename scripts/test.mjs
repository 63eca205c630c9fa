import { mkdtempSync } from 'node:fs'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBrowser } from './lib/browser.mjs'
import { doJobs } from './lib/jobs.mjs'
import { ensureBuild, ensureDependencies, requireNode, run, tool } from './lib/project.mjs'
import { anyFreePort, serve } from './lib/server.mjs'
import { summaryOf } from './lib/summary.mjs'
import { runVitest } from './lib/vitest.mjs'

requireNode()
const began = Date.now()
// Fetching the browser takes a while on a new machine, but hardly any of its processor.
const installing = ensureBrowser()
await ensureDependencies()

const logs = mkdtempSync(join(tmpdir(), 'deft-lattice-tests-'))
const stages = []

/** Run a stage and print how it ended; what it printed itself follows where it has failed. */
async function stage(name, act) {
  const started = Date.now()
  const { passed, failed, output, tests } = await act()
  const ms = Date.now() - started
  stages.push({ name, passed, failed, tests, ms, from: started - began })
  console.log(
    `${failed === 0 ? 'ok  ' : 'FAIL'} ${name}: ${passed} passed, ${failed} failed (${(ms / 1000).toFixed(1)} s)`,
  )
  if (failed > 0 && output) console.log(output)
}

/** A command that counts as one check. */
const check = async (command, args) => {
  const { code, output } = await run(command, args, { quiet: true })
  return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, output }
}
/** Type checks of projects, one after the other; the first that fails ends it. */
const types = async (...projects) => {
  for (const project of projects) {
    const checked = await check(tool('vue-tsc'), ['--noEmit', '-p', project])
    if (checked.failed > 0) return checked
  }
  return { passed: projects.length, failed: 0, output: '' }
}

async function unitTests() {
  // Printed sheets are read with tools that come with the browser.
  const browser = await installing
  return runVitest('unit', logs, ['--maxWorkers=1'], browser.env ?? {})
}

async function build() {
  const { code, output } = await ensureBuild({ quiet: true })
  return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, output }
}

/** Tests against the built application, which is served for them. */
async function served(name, args) {
  const browser = await installing
  if (!browser.ok) return { passed: 0, failed: 1, output: browser.advice }
  const server = await serve(await anyFreePort(), { quiet: true })
  try {
    return await runVitest(name, logs, args, {
      ...browser.env,
      DEFT_ADDRESS: server.address,
      DEFT_LOGS: logs,
    })
  } finally {
    server.stop()
  }
}

const jobs = [
  { name: 'build', act: build },
  { name: 'types of the pages', act: () => types('.nuxt/tsconfig.app.json') },
  {
    name: 'types of all else',
    act: () =>
      types(
        'core/tsconfig.json',
        'tests.tsconfig.json',
        '.nuxt/tsconfig.server.json',
        '.nuxt/tsconfig.node.json',
      ),
  },
  { name: 'unit tests', act: unitTests },
  { name: 'lint', act: () => check(tool('eslint'), ['.']) },
  { name: 'format', act: () => check(tool('prettier'), ['--check', '.']) },
  {
    name: 'routes',
    after: ['build'],
    act: () => served('routes', ['--config', 'e2e/routes.config.ts']),
  },
  {
    name: 'browser tests',
    after: ['build'],
    cores: 2,
    act: () => served('browser', ['--config', 'e2e/vitest.config.ts']),
  },
].map(({ act, ...job }) => ({ ...job, act: () => stage(job.name, act) }))
await doJobs(jobs, Math.max(1, Math.min(2, cpus().length)))

const total = (what) => stages.reduce((sum, each) => sum + each[what], 0)
console.log(summaryOf(stages, join(logs, 'spent.jsonl')).join('\n'))
console.log(`${((Date.now() - began) / 1000).toFixed(0)} s in all; reports and pictures of failures: ${logs}`)
console.log(`${total('passed')} passed, ${total('failed')} failed`)
process.exit(total('failed') === 0 ? 0 : 1)
