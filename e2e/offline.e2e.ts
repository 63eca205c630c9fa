import { spawn, type ChildProcess } from 'node:child_process'
import { readFile } from 'node:fs/promises'
import { createServer } from 'node:http'
import { extname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Key, setField, startSession, type Session } from './browser'

const PORT = 4321
const OWN = `http://127.0.0.1:${PORT}`

let page: Session
let server: ChildProcess
beforeAll(async () => {
  server = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: {
      ...process.env,
      PORT: String(PORT),
      NITRO_PORT: String(PORT),
      HOST: '127.0.0.1',
      NITRO_HOST: '127.0.0.1',
    },
    stdio: 'ignore',
  })
  page = await startSession(null, true)
  await page.waitFor('the server', () => isUp())
})
afterAll(async () => {
  server.kill('SIGKILL')
  await page.quit()
})

const isUp = (): Promise<boolean> =>
  fetch(`${OWN}/api/health`).then(
    ({ ok }) => ok,
    () => false,
  )
const soon = (what: string, css: string, text: string | RegExp): Promise<boolean> =>
  page.waitFor(`${what}: ${String(text)}`, async () => {
    const now = await page.text(css)
    return typeof text === 'string' ? now.includes(text) : text.test(now)
  })

describe('with its server stopped', () => {
  it('opens, edits, checks, plans, exports a sheet, and keeps it all', { timeout: 180_000 }, async () => {
    await page.driver.get(`${OWN}/desk`)
    await page.find('[data-testid=findings-count]')
    await page.waitFor('the application to be kept', async () =>
      Boolean(
        await page.driver.executeAsyncScript(`
          const done = arguments[0]
          const wait = async () => {
            const [name] = await caches.keys()
            const registration = await navigator.serviceWorker.getRegistration()
            done(Boolean(name && registration?.active))
          }
          void wait()`),
      ),
    )
    server.kill('SIGKILL')
    await page.waitFor('the server to be gone', async () => !(await isUp()))

    await page.driver.get(`${OWN}/desk`)
    await soon('it is checked', '[data-testid=findings-count]', /\d+|No findings/)
    await page.click('[data-testid=rig-menu]')
    await setField(page, '#rig-name', 'On stage', Key.ENTER)
    await page.keys(Key.ESCAPE)
    await soon('the edit', '[data-testid=rig-menu]', 'On stage')

    await page.click('[data-testid=findings-count]')
    await page.click('[data-testid=plan-repair]')
    await soon('a plan', '[data-testid=plan-summary]', 'addresses change')
    await soon('that it is the best', '[data-testid=plan]', 'Proven: no plan is better.')
    await page.click('[data-testid=plan-make]')

    await page.press('History')
    await soon('the edit is there', '[data-testid=history-line]', 'Rename the rig')
    await page.press('Sheets')
    await page.click('[data-sheet="map loomwright"]')
    await page.find('[data-testid=sheet]')
    await page.click('[data-export=pdf]')
    expect(Buffer.from((await page.downloadedBytes('.pdf')).subarray(0, 5)).toString()).toBe('%PDF-')

    await page.click('[data-sheet=living]')
    await page.find('[data-testid=living-surface]')
    await page.driver.navigate().refresh()
    await soon('the living card', '[data-living="fader-1"]', 'Rings')
    await page.click('[data-living-controller=pelluna]')
    await page.find('[data-living="pad-1"]')
    await page.click('[aria-label="Back to the sheets"]')
    await page.find('[data-sheet=living]')

    await page.driver.navigate().refresh()
    await soon('it is kept', '[data-testid=rig-menu]', 'On stage')
    await page.press('Bench')
    await page.find('[data-testid=bench-surface]')
    expect(
      await page.errors().then((all) => all.filter((each) => !/ERR_CONNECTION_REFUSED/.test(each))),
    ).toEqual([])
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
  const port = PORT + 1
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
  beforeAll(() => new Promise<void>((resolve) => files.listen(port, '127.0.0.1', resolve)))
  afterAll(() => new Promise((resolve) => files.close(resolve)))
  const said = (words: string): Promise<boolean> =>
    page.waitFor(`“${words}”`, async () => (await page.text('body')).includes(words))

  it('is offered, never forced, and the open rig survives it', { timeout: 120_000 }, async () => {
    const open = async (): Promise<void> => {
      await page.driver.get(`http://127.0.0.1:${port}/desk`)
      await page.find('[data-testid=findings-count]')
    }
    await open()
    await page.waitFor('it to be kept', () =>
      page.driver.executeAsyncScript(
        'const done = arguments[0]; navigator.serviceWorker.ready.then(() => done(true))',
      ),
    )
    await open()
    const first = await page.driver.getWindowHandle()
    await page.driver.switchTo().newWindow('tab')
    await open()
    const second = await page.driver.getWindowHandle()
    // Both tabs are at rest by now, and follow what comes.
    await page.driver.sleep(4000)
    await page.driver.switchTo().window(first)

    isNewer = true
    await page.driver.executeScript(
      'window.before = true; navigator.serviceWorker.getRegistration().then((each) => each.update())',
    )
    await said('A newer Deft Lattice is here')
    await page.click('[data-testid=rig-menu]')
    await setField(page, '#rig-name', 'Amid the change', Key.ENTER)
    await page.keys(Key.ESCAPE)
    await expect.poll(() => page.driver.executeScript('return window.before')).toBe(true)
    await page.press('Change over')
    await page.waitFor('the page to load again', async () =>
      Boolean(await page.driver.executeScript('return window.before === undefined')),
    )
    await soon('the rig is as it was', '[data-testid=rig-menu]', 'Amid the change')

    await page.driver.switchTo().window(second)
    await said('Another tab has changed over to a newer Deft Lattice')
  })
})
