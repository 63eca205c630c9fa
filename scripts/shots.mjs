import { ensureBrowser } from './lib/browser.mjs'
import { ensureBuild, ensureDependencies, fail, requireNode, run, tool } from './lib/project.mjs'
import { anyFreePort, serve } from './lib/server.mjs'

requireNode()
await ensureDependencies()
const browser = await ensureBrowser()
if (!browser.ok) fail(browser.advice)
const build = await ensureBuild()
if (build.code !== 0) fail(`The build failed:\n${build.output}`)

const server = await serve(await anyFreePort(), { quiet: true })
const { code } = await run(tool('vitest'), ['run', '--config', 'e2e/shots.config.ts'], {
  env: { ...browser.env, DEFT_ADDRESS: server.address },
})
server.stop()
process.exit(code)
