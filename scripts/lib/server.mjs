import { spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { ROOT } from './project.mjs'

const HOST = '127.0.0.1'

/** Can the port be listened on? */
export const isFree = (port) =>
  new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(port, HOST, () => probe.close(() => resolve(true)))
  })

/** Some port that nobody listens on. */
export const anyFreePort = () =>
  new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', reject)
    probe.listen(0, HOST, () => {
      const { port } = probe.address()
      probe.close(() => resolve(port))
    })
  })

/** Start the built application on 127.0.0.1 and wait until it answers. */
export async function serve(port, { quiet = false } = {}) {
  const child = spawn(process.execPath, [join(ROOT, '.output/server/index.mjs')], {
    cwd: ROOT,
    // Nitro's graceful shutdown trips over connections that a client cuts off; stopping at once is right here.
    env: {
      ...process.env,
      NITRO_SHUTDOWN_DISABLED: 'true',
      HOST,
      PORT: String(port),
      NITRO_HOST: HOST,
      NITRO_PORT: String(port),
    },
    stdio: ['ignore', quiet ? 'ignore' : 'pipe', 'inherit'],
  })
  const address = `http://${HOST}:${port}`
  let ended = false
  child.once('exit', () => {
    ended = true
  })
  for (let attempt = 0; attempt < 150; attempt++) {
    if (ended) throw new Error('The server stopped before it answered.')
    const answers = await fetch(`${address}/api/health`).then(
      (response) => response.ok,
      () => false,
    )
    if (answers) return { address, child, stop: () => child.kill() }
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  child.kill()
  throw new Error('The server did not answer within 15 seconds.')
}
