import { ensureBuild, ensureDependencies, fail, requireNode } from './lib/project.mjs'
import { isFree, serve } from './lib/server.mjs'

const DEFAULT_PORT = 4317

requireNode()
const port = Number(process.env.PORT ?? DEFAULT_PORT)
if (!Number.isInteger(port) || port < 1 || port > 65_535) {
  fail(`PORT must be a number from 1 to 65535, not “${process.env.PORT}”.`)
}
if (!(await isFree(port))) {
  fail(`Port ${port} is already in use. Stop what uses it, or choose another: PORT=${port + 1} npm run demo`)
}
await ensureDependencies()
const build = await ensureBuild()
if (build.code !== 0) fail(`The build failed:\n${build.output}`)

try {
  const { address, child } = await serve(port)
  console.log(`Deft Lattice is at ${address} (stop with Ctrl+C)`)
  for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => child.kill(signal))
  child.once('exit', (code) => process.exit(code ?? 0))
} catch (error) {
  fail(error.message)
}
