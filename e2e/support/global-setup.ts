import { spawn } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import type { TestProject } from 'vitest/node'
import { build } from 'vite'
import { anyFreePort } from '../../scripts/lib/server.mjs'

declare module 'vitest' {
  interface ProvidedContext {
    /** Where ChromeDriver listens. */
    driverUrl: string
    /** A script that gives the page a `shelf` that rigs are put on. */
    shelfScript: string
  }
}

const HOST = '127.0.0.1'
const START_MS = 30_000
const file = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

async function shelfScript(): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: 'error',
    resolve: { alias: { '#core': file('../../core') } },
    build: {
      write: false,
      lib: { entry: file('./put-on-shelf.ts'), name: 'shelf', formats: ['iife'] },
      rollupOptions: { output: { inlineDynamicImports: true } },
    },
  })
  const [output] = Array.isArray(built) ? built : [built]
  if (!output || !('output' in output)) throw new Error('The script for the shelf could not be built.')
  // A script that WebDriver runs is the body of a function: what it declares has to be handed to the page.
  return `${output.output[0].code}\nwindow.shelf = shelf;`
}

/** Close every browser that a ChromeDriver has opened: they would outlive it. */
async function closeBrowsers(url: string): Promise<void> {
  const { value } = (await (await fetch(`${url}/sessions`)).json()) as { value: Array<{ id: string }> }
  await Promise.all(value.map(({ id }) => fetch(`${url}/session/${id}`, { method: 'DELETE' })))
}

/** One ChromeDriver serves all workers. */
async function startDriver(): Promise<{ url: string; stop: () => Promise<void> }> {
  const port = await anyFreePort()
  const driver = spawn(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver', [`--port=${port}`], {
    stdio: 'ignore',
  })
  const url = `http://${HOST}:${port}`
  const until = Date.now() + START_MS
  for (;;) {
    const isReady = await fetch(`${url}/status`).then(
      ({ ok }) => ok,
      () => false,
    )
    if (isReady)
      return {
        url,
        stop: async () => {
          await closeBrowsers(url)
          driver.kill()
        },
      }
    if (driver.exitCode !== null || Date.now() > until) throw new Error('ChromeDriver does not answer.')
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
}

/** Before all browser tests: start ChromeDriver and build the script that puts rigs into the browser's storage. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const [driver, script] = await Promise.all([startDriver(), shelfScript()])
  project.provide('driverUrl', driver.url)
  project.provide('shelfScript', script)
  return driver.stop
}
