import { ensureBrowser } from './lib/browser.mjs'
import { ensureBuild, ensureDependencies, fail, requireNode, run, tool } from './lib/project.mjs'
import { anyFreePort, serve } from './lib/server.mjs'

/** So many random histories of failing storage, and so many browsers that are killed. */
const HISTORIES = '3000'
const KILLS = process.argv[2] ?? '100'

requireNode()
await ensureDependencies()
const storage = await run(tool('vitest'), ['run', 'app/storage'], { env: { FAULT_RUNS: HISTORIES } })
const browser = await ensureBrowser()
if (!browser.ok) fail(browser.advice)
const build = await ensureBuild()
if (build.code !== 0) fail(`The build failed:\n${build.output}`)
const server = await serve(await anyFreePort(), { quiet: true })
const pages = await run(tool('vitest'), ['run', '--config', 'e2e/vitest.config.ts', 'keep', 'kills'], {
  env: { ...browser.env, DEFT_ADDRESS: server.address, KILLS },
})
server.stop()
process.exit(storage.code === 0 ? pages.code : storage.code)
