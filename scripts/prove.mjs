import { ensureDependencies, requireNode, run, tool } from './lib/project.mjs'

/** The long form of the unit tests: twenty times the cases. A seed of one's own draws others: `npm run prove -- 7`. */
requireNode()
await ensureDependencies()
const [seed = '4711', ...files] = process.argv.slice(2)
const { code } = await run(tool('vitest'), ['run', ...files], { env: { PROVE: '1', PROVE_SEED: seed } })
process.exit(code)
