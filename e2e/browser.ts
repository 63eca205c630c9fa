import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Builder, By, Key, until, type WebDriver, type WebElement } from 'selenium-webdriver'
import { Options, ServiceBuilder, type Driver } from 'selenium-webdriver/chrome.js'

export { By, Key }

const WAIT_MS = 45_000

/** Where the built application answers. */
export const ADDRESS = process.env.DEFT_ADDRESS ?? 'http://127.0.0.1:4317'

/** How many times slower the pages are to be, to find what only a slow machine shows. */
const SLOWER = Number(process.env.DEFT_SLOWER ?? 1)

/** A browser with a profile and a download folder of its own, and a page of 1280 × 800. */
export interface Session {
  driver: WebDriver
  /** The first element that a CSS selector finds, as soon as it is there. */
  find: (css: string) => Promise<WebElement>
  count: (css: string) => Promise<number>
  text: (css: string) => Promise<string>
  click: (css: string) => Promise<void>
  /** The button, link or tab with these words. */
  press: (words: string) => Promise<void>
  /** Keys to whatever has the focus. */
  keys: (...keys: string[]) => Promise<void>
  /** Wait until `condition` gives something true; the message names what was waited for. */
  waitFor: <T>(what: string, condition: () => Promise<T>) => Promise<T>
  go: (path: string) => Promise<void>
  /** A file that has arrived whole in the download folder, by the end of its name. */
  downloaded: (ending: string) => Promise<string>
  downloadedBytes: (ending: string) => Promise<Uint8Array>
  /** One of the browser’s own DevTools commands; gives what it answers. */
  devTools: (command: string, params: Record<string, unknown>) => Promise<unknown>
  setPage: (width: number, height: number) => Promise<void>
  shoot: () => Promise<Buffer>
  errors: () => Promise<string[]>
  quit: () => Promise<void>
}

const literal = (words: string): string => `concat('', "${words.replaceAll('"', `", '"', "`)}")`

/**
 * @param own A profile to go on with, which stays when the session ends; else a new one that goes with it.
 * @param keeps Whether the browser may keep the application for later, which takes twice the work of showing it.
 */
export async function startSession(own: string | null = null, keeps = false): Promise<Session> {
  const profile = own ?? mkdtempSync(join(tmpdir(), 'deft-browser-'))
  const downloads = mkdtempSync(join(tmpdir(), 'deft-downloads-'))
  const options = new Options()
  options.setChromeBinaryPath(process.env.CHROMIUM ?? '/usr/bin/chromium')
  options.setUserPreferences({ 'download.default_directory': downloads })
  options.addArguments(
    '--headless=new',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    `--user-data-dir=${profile}`,
  )
  const driver = (await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver'))
    .build()) as unknown as Driver

  const setPage = (width: number, height: number) =>
    driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    })
  await setPage(1280, 800)
  if (SLOWER > 1) await driver.sendDevToolsCommand('Emulation.setCPUThrottlingRate', { rate: SLOWER })
  if (!keeps)
    await driver.sendDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
      source: 'delete Navigator.prototype.serviceWorker',
    })

  const find = (css: string) => driver.wait(until.elementLocated(By.css(css)), WAIT_MS, `no ${css}`)
  const waitFor = <T>(what: string, condition: () => Promise<T>): Promise<T> =>
    driver.wait(
      async () => {
        try {
          return await condition()
        } catch (error) {
          // An element may be replaced or move between being found and being used: look again.
          if (error instanceof Error && /Stale|NoSuchElement|ClickIntercepted/.test(error.name))
            return undefined as T
          throw error
        }
      },
      WAIT_MS,
      what,
    ) as Promise<T>

  return {
    driver,
    find,
    waitFor,
    devTools: (command, params) => driver.sendAndGetDevToolsCommand(command, params) as Promise<unknown>,
    setPage,
    count: async (css) => (await driver.findElements(By.css(css))).length,
    text: (css) =>
      waitFor(`to read ${css}`, async () => ({ read: await (await find(css)).getText() })).then(
        ({ read }) => read,
      ),
    click: (css) =>
      waitFor(`to click ${css}`, async () => {
        const element = await find(css)
        // Cures that come in push down what is below them. A first plan, for which a better one is sought, pushes nothing.
        const moving = By.css('[aria-busy=true]:not([data-testid=plan-result])')
        if ((await driver.findElements(moving)).length > 0) return false
        await element.click()
        return true
      }).then(() => undefined),
    press: (words) =>
      waitFor(`to press “${words}”`, async () => {
        const path = `//*[self::button or self::a or @role="tab" or @role="option"][contains(normalize-space(.), ${literal(words)})]`
        for (const element of await driver.findElements(By.xpath(path))) {
          if (await element.isDisplayed()) {
            await element.click()
            return true
          }
        }
        return false
      }).then(() => undefined),
    keys: async (...keys) => (await driver.switchTo().activeElement()).sendKeys(...keys),
    go: (path) => driver.get(`${ADDRESS}${path}`),
    downloaded: (ending) =>
      waitFor(`a download ending in ${ending}`, async () => {
        const name = readdirSync(downloads).find((file) => file.endsWith(ending))
        return name === undefined ? '' : readFileSync(join(downloads, name), 'utf8')
      }),
    downloadedBytes: (ending) =>
      waitFor(`a download ending in ${ending}`, async () => {
        const name = readdirSync(downloads).find((file) => file.endsWith(ending))
        const bytes = new Uint8Array(name === undefined ? [] : readFileSync(join(downloads, name)))
        // The name is there before what it names.
        return bytes.length === 0 ? (undefined as never) : bytes
      }),
    shoot: async () => Buffer.from(await driver.takeScreenshot(), 'base64'),
    errors: async () => {
      const entries = await driver.manage().logs().get('browser')
      return entries.filter(({ level }) => level.name === 'SEVERE').map(({ message }) => message)
    },
    quit: async () => {
      await driver.quit()
      for (const folder of own === null ? [profile, downloads] : [downloads])
        rmSync(folder, { recursive: true, force: true, maxRetries: 3 })
    },
  }
}

/** Put the demo rig as it is performed, which has no findings, in the place of what is open. */
export async function openPerformed(page: Session): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await page.press('Demo as performed')
  await page.find('[data-control=fader-1]')
  await page.waitFor(
    'a rig without findings',
    async () => (await page.text('[data-testid=findings-count]')) === 'No findings',
  )
}

/** Select controls on the surface in order, as a click and Shift-clicks do. */
export async function selectControls(page: Session, ids: readonly string[]): Promise<void> {
  for (const [index, id] of ids.entries())
    await page.driver.executeScript(
      `document.querySelector(arguments[0]).dispatchEvent(
         new MouseEvent('click', { bubbles: true, cancelable: true, shiftKey: arguments[1] }))`,
      `[data-control="${id}"]`,
      index > 0,
    )
}

/** What a look at the page gives, once it gives the same twice, a moment apart; nothing never counts. */
export function whenStill<T>(page: Session, what: string, look: () => Promise<T | null>): Promise<T> {
  let before = 'null'
  return page.waitFor(what, async () => {
    const seen = await look()
    const now = JSON.stringify(seen)
    const isStill = seen !== null && now === before
    before = now
    return isStill ? seen : (undefined as never)
  })
}

/** How many messages the Bench has kept, once no more come. */
export const messagesKept = (page: Session): Promise<number> =>
  whenStill(page, 'no more messages to come', async () => ({
    count: Number(/[\d,]+/.exec(await page.text('[data-testid=tape-count]'))?.[0].replaceAll(',', '') ?? 0),
  })).then(({ count }) => count)

/** A point of the page (px), for a pointer to go to. */
export interface Point {
  x: number
  y: number
}

/**
 * The middle of the first element that a CSS selector finds, once it stands still. A pointer that goes to a
 * point is not lost when what is there is drawn anew.
 * @param block Where in its region it is scrolled to first, if it has to be.
 */
export function middleOf(
  page: Session,
  css: string,
  block: ScrollLogicalPosition | null = null,
): Promise<Point> {
  const look = (): Promise<Point | null> =>
    page.driver.executeScript<Point | null>(
      `const element = document.querySelector(arguments[0])
       if (!element) return null
       if (arguments[1]) element.scrollIntoView({ block: arguments[1] })
       const box = element.getBoundingClientRect()
       return { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) }`,
      css,
      block,
    )
  return whenStill(page, `${css} to stand still`, look)
}

/** `kind-from` to `kind-to`, as ids of controls. */
export const idsFrom = (kind: string, from: number, to: number): string[] =>
  Array.from({ length: to - from + 1 }, (_, index) => `${kind}-${from + index}`)

/** Put a text into a field in the place of what stands there, as soon as it may be edited: a rig that was just opened is read first. */
export async function setField(page: Session, css: string, ...keys: string[]): Promise<void> {
  const field = await page.waitFor(`to type into ${css}`, async () => {
    const found = await page.find(css)
    return (await found.isEnabled()) ? found : (undefined as never)
  })
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), ...keys)
}

/** Choose an option of one of the application's own lists, by its name. */
export async function pickOption(page: Session, css: string, name: string): Promise<void> {
  await page.click(css)
  const option = By.xpath(`//*[@role="option"][contains(normalize-space(.), "${name}")]`)
  await page.waitFor(`the option ${name}`, async () => (await page.driver.findElements(option)).length > 0)
  await page.driver.findElement(option).click()
}

/** Make a change that is held back because it makes something unheard. */
export async function makePending(page: Session): Promise<void> {
  await page.click('[data-testid=pending-make]')
  await page.waitFor('it to be made', async () => (await page.count('[data-testid=pending]')) === 0)
}

const LAST_OPENED = `return sessionStorage.getItem('deft-lattice/last-opened')`

/** Give bytes or a text as a file to whatever opens a choice of files. With so many blanks after it, which take time to read. */
export async function giveFile(
  page: Session,
  openChoice: () => Promise<void>,
  name: string,
  content: string | Uint8Array,
  blanks = 0,
): Promise<void> {
  await page.driver.executeScript(`
    window.__input = null
    const click = HTMLInputElement.prototype.click
    HTMLInputElement.prototype.click = function () {
      if (this.type !== 'file') return click.call(this)
      window.__input = this
    }`)
  await openChoice()
  await page.driver.executeScript(
    `const [name, content, blanks] = arguments
     const files = new DataTransfer()
     const part = typeof content === 'string' ? content : Uint8Array.from(content)
     files.items.add(new File([part, ' '.repeat(blanks)], name))
     window.__input.files = files.files
     window.__input.dispatchEvent(new Event('change', { bubbles: true }))`,
    name,
    typeof content === 'string' ? content : [...content],
    blanks,
  )
}

/**
 * Give a text as a file to the application's own import, and wait until it is open or refused; with blanks it is not waited for.
 */
export async function importText(page: Session, name: string, text: string, blanks = 0): Promise<void> {
  let before: unknown = null
  const choose = async (): Promise<void> => {
    await page.click('[data-testid=rig-menu]')
    // Not before that: a page that has just come opens a rig by itself.
    before = await page.driver.executeScript(LAST_OPENED)
    await page.press('Import a file')
  }
  await giveFile(page, choose, name, text, blanks)
  if (blanks > 0) return
  await page.waitFor(
    'the file to be read',
    async () =>
      (await page.driver.executeScript(LAST_OPENED)) !== before || (await page.count('[role=dialog]')) > 0,
  )
}
