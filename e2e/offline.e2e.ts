import { spawn, type ChildProcess } from 'node:child_process'
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
  page = await startSession()
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

    await page.driver.navigate().refresh()
    await soon('it is kept', '[data-testid=rig-menu]', 'On stage')
    await page.press('Bench')
    await page.find('[data-testid=bench-surface]')
    expect(
      await page.errors().then((all) => all.filter((each) => !/ERR_CONNECTION_REFUSED/.test(each))),
    ).toEqual([])
  })
})
