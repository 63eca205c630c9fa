import { spawn, type ChildProcess } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { createServer } from 'node:http'
import { extname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { anyFreePort } from '../scripts/lib/server.mjs'
import { Key, usePage } from './support/page'

const HOST = '127.0.0.1'
let own = ''
let server: ChildProcess
const page = usePage({ keepsApplication: true, expectedErrors: /ERR_CONNECTION_REFUSED/ })
beforeAll(async () => {
  const port = String(await anyFreePort())
  own = `http://${HOST}:${port}`
  server = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: { ...process.env, PORT: port, NITRO_PORT: port, HOST, NITRO_HOST: HOST },
    stdio: 'ignore',
  })
  await page.waitFor('the server', () => isUp())
})
afterAll(() => server.kill('SIGKILL'))

const isUp = (): Promise<boolean> =>
  fetch(`${own}/api/health`).then(
    ({ ok }) => ok,
    () => false,
  )
async function rename(name: string): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await page.type('#rig-name', name, Key.ENTER)
  await page.keys(Key.ESCAPE)
}

describe('with its server stopped', () => {
  it('opens, edits, checks, plans, exports a sheet, and keeps it all', { timeout: 180_000 }, async () => {
    await page.driver.get(`${own}/desk`)
    await page.find('[data-testid=findings-count]')
    await page.waitFor('the application to be kept', () =>
      page.runAsync(`
        const done = arguments[0]
        const wait = async () => {
          const [name] = await caches.keys()
          const registration = await navigator.serviceWorker.getRegistration()
          done(Boolean(name && registration?.active))
        }
        void wait()`),
    )
    server.kill('SIGKILL')
    await page.waitFor('the server to be gone', async () => !(await isUp()))

    await page.driver.get(`${own}/desk`)
    await page.says('[data-testid=findings-count]', /\d+|No findings/)
    await rename('On stage')
    await page.says('[data-testid=rig-menu]', 'On stage')

    await page.click('[data-testid=findings-count]')
    await page.click('[data-testid=plan-repair]')
    await page.says('[data-testid=plan-summary]', 'addresses change')
    await page.says('[data-testid=plan]', 'Proven: no plan is better.')
    await page.click('[data-testid=plan-make]')

    await page.press('History')
    await page.says('[data-testid=history-line]', 'Rename the rig')
    await page.press('Sheets')
    await page.click('[data-sheet="map loomwright"]')
    await page.find('[data-testid=sheet]')
    await page.click('[data-export=pdf]')
    expect(Buffer.from((await page.downloadedBytes('.pdf')).subarray(0, 5)).toString()).toBe('%PDF-')

    await page.click('[data-sheet=living]')
    await page.find('[data-testid=living-surface]')
    await page.driver.navigate().refresh()
    await page.says('[data-living="fader-1"]', 'Rings')
    await page.click('[data-living-controller=pelluna]')
    await page.find('[data-living="pad-1"]')
    await page.click('[aria-label="Back to the sheets"]')
    await page.find('[data-sheet=living]')

    await page.driver.navigate().refresh()
    await page.says('[data-testid=rig-menu]', 'On stage')
    await page.press('Bench')
    await page.find('[data-testid=bench-surface]')
  })
})

const TYPES: Readonly<Record<string, string>> = {
  '.css': 'text/css',
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.svg': 'image/svg+xml',
  '.wasm': 'application/wasm',
  '.webmanifest': 'application/manifest+json',
  '.woff2': 'font/woff2',
}

describe('a newer version of the application', () => {
  let address = ''
  let isNewer = false
  const files = createServer((asked, answer) => {
    const path = (asked.url ?? '/').split('?')[0] ?? '/'
    const name = extname(path) === '' ? '/index.html' : path
    readFile(join('.output/public', name)).then(
      (bytes) => {
        answer.setHeader('content-type', TYPES[extname(name)] ?? 'application/octet-stream')
        answer.end(isNewer && name === '/sw.js' ? `${String(bytes)}\n// newer` : bytes)
      },
      () => answer.writeHead(404).end(),
    )
  })
  beforeAll(async () => {
    const port = await anyFreePort()
    address = `http://${HOST}:${port}`
    await new Promise<void>((resolve) => files.listen(port, HOST, resolve))
  })
  afterAll(() => new Promise((resolve) => files.close(resolve)))
  const said = (words: string): Promise<void> => page.says('body', words)

  it('is offered, never forced, and the open rig survives it', { timeout: 120_000 }, async () => {
    const open = async (): Promise<void> => {
      await page.driver.get(`${address}/desk`)
      await page.find('[data-testid=findings-count]')
    }
    await open()
    await page.waitFor('it to be kept', () =>
      page.runAsync('const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(true))'),
    )
    await open()
    const first = await page.driver.getWindowHandle()
    const second = await page.blankTab()
    await open()
    // Both tabs are at rest by now, and follow what comes.
    await page.driver.sleep(4000)
    await page.toTab(first)

    isNewer = true
    await page.run(
      'window.before = true; navigator.serviceWorker.getRegistration().then((each) => each.update())',
    )
    await said('A newer Deft Lattice is here')
    await rename('Amid the change')
    expect(await page.run('return window.before')).toBe(true)
    await page.press('Change over')
    await page.waitFor('the page to load again', () => page.run('return window.before === undefined'))
    await page.says('[data-testid=rig-menu]', 'Amid the change')

    await page.toTab(second)
    await said('Another tab has changed over to a newer Deft Lattice')
  })
})
