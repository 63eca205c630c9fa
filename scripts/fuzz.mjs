import { ensureDependencies, requireNode, run, tool } from './lib/project.mjs'

/** So many damaged texts for each kind of reader, and a hundredth of that of backups: over a hundred thousand in all, in some minutes. */
const RUNS = process.argv[2] ?? '34000'

requireNode()
await ensureDependencies()
const { code } = await run(tool('vitest'), ['run', 'core/rig/fuzz.test.ts', 'app/storage/backup.test.ts'], {
  env: { FUZZ_RUNS: RUNS },
})
process.exit(code)
