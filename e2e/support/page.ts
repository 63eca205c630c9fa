import { appendFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { By, Key, type WebElement } from 'selenium-webdriver'
import type { Driver } from 'selenium-webdriver/chrome.js'
import { afterAll, afterEach, beforeAll, expect, inject, type TestContext } from 'vitest'
import type { Rig } from '../../core/rig'
import { ADDRESS } from './address'
import { freshContext, ownBrowser, SLOWER, type Context } from './browser'

export { ADDRESS, By, Key }

const WAIT_MS = SLOWER > 1 ? 60_000 : 30_000
const LOOK_AGAIN_MS = 20
/** A page of ours on which the application does not run, so that its storage can be changed. */
const QUIET_PAGE = `${ADDRESS}/favicon.svg`

/** An element may be drawn anew, or moved, between being found and being used. */
const comesLater = (error: unknown): boolean =>
  error instanceof Error && /Stale|NoSuchElement|ClickIntercepted|NotInteractable/.test(error.name)

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** A text holds certain words, or matches a pattern. */
const holds = (text: string, words: string | RegExp): boolean =>
  typeof words === 'string' ? text.includes(words) : words.test(text)

/** What a test does to a page and reads from it. All that looks for something waits until it is there. */
export class Page {
  context: Context | null = null
  /** Scripts that run in every document from now on, until the next `open`. */
  private scripts: string[] = []

  get driver(): Driver {
    return this.ofContext.driver
  }

  private get ofContext(): Context {
    if (!this.context) throw new Error('The page is used before the tests have begun.')
    return this.context
  }

  /** What was spent on opening pages, and on waiting between looks, in ms. */
  readonly spent = { opening: 0, waiting: 0 }

  /** Look again and again until `look` gives something true. Who gives up says what was waited for. */
  async waitFor<T>(what: string, look: () => Promise<T>): Promise<NonNullable<T>> {
    const until = Date.now() + WAIT_MS
    for (;;) {
      try {
        const seen = await look()
        if (seen) return seen
      } catch (error) {
        if (!comesLater(error)) throw error
      }
      if (Date.now() > until) throw new Error(`Waited ${WAIT_MS / 1000} s for ${what}.`)
      await pause(LOOK_AGAIN_MS)
      this.spent.waiting += LOOK_AGAIN_MS
    }
  }

  /** A part of a journey; where it fails, its name is said first. */
  async step(name: string, act: () => Promise<unknown>): Promise<void> {
    try {
      await act()
    } catch (error) {
      if (error instanceof Error) error.message = `${name}: ${error.message}`
      throw error
    }
  }

  /** What a script in the page gives; it is the body of a function. */
  run<T>(script: string, ...given: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(script, ...given)
  }

  /** The same for a script that calls its last argument when it is done. */
  runAsync<T>(script: string, ...given: unknown[]): Promise<T> {
    return this.driver.executeAsyncScript<T>(script, ...given)
  }

  find(css: string): Promise<WebElement> {
    return this.waitFor(css, async () => (await this.driver.findElements(By.css(css)))[0])
  }

  count(css: string): Promise<number> {
    return this.run('return document.querySelectorAll(arguments[0]).length', css)
  }

  /** Wait until so many are there. */
  async counts(css: string, wanted: number): Promise<void> {
    await this.waitFor(`${wanted} of ${css}`, async () => (await this.count(css)) === wanted)
  }

  /** The text of an element as it is shown. */
  async text(css: string): Promise<string> {
    const { read } = await this.waitFor(css, () =>
      this.run<{ read: string } | null>(
        `const element = document.querySelector(arguments[0])
         return element && { read: (element.innerText ?? element.textContent).trim() }`,
        css,
      ),
    )
    return read
  }

  /** Wait until an element says certain words. */
  async says(css: string, words: string | RegExp): Promise<void> {
    let last = ''
    try {
      await this.waitFor('', async () => holds((last = await this.text(css)), words))
    } catch (error) {
      if (!(error instanceof Error) || !error.message.startsWith('Waited')) throw error
      throw new Error(`Waited for ${css} to say ${String(words)}; it says: ${last.slice(0, 600)}`)
    }
  }

  /** Wait until an element says exactly that. */
  async reads(css: string, words: string): Promise<void> {
    await expect.poll(() => this.text(css)).toBe(words)
  }

  async attribute(css: string, name: string): Promise<string | null> {
    const { value } = await this.waitFor(css, () =>
      this.run<{ value: string | null } | null>(
        `const element = document.querySelector(arguments[0])
         return element && { value: element.getAttribute(arguments[1]) }`,
        css,
        name,
      ),
    )
    return value
  }

  /** What stands in a field. */
  value(css: string): Promise<string> {
    return this.waitFor(css, () =>
      this.run<[string] | null>(
        `const field = document.querySelector(arguments[0]); return field && [field.value]`,
        css,
      ),
    ).then(([value]) => value)
  }

  async click(css: string): Promise<void> {
    await this.waitFor(`to click ${css}`, async () => {
      // Cures that come in push down what is below them. A first plan, for which a better one is sought, pushes nothing.
      const element = await this.run<WebElement | null>(
        `return document.querySelector('[aria-busy=true]:not([data-testid=plan-result])')
           ? null : document.querySelector(arguments[0])`,
        css,
      )
      await element?.click()
      return element !== null
    })
  }

  async shiftClick(css: string): Promise<void> {
    const element = await this.find(css)
    await this.driver.actions().keyDown(Key.SHIFT).click(element).keyUp(Key.SHIFT).perform()
  }

  /** The button, link, tab or option that says these words. */
  async press(words: string): Promise<void> {
    await this.waitFor(`to press “${words}”`, async () => {
      const element = await this.run<WebElement | null>(
        `return [...document.querySelectorAll('button, a, [role=tab], [role=option]')].find((each) =>
           each.textContent.replace(/\\s+/g, ' ').includes(arguments[0]) &&
           each.checkVisibility({ visibilityProperty: true }) && each.getClientRects().length > 0) ?? null`,
        words,
      )
      await element?.click()
      return element !== null
    })
  }

  /** Choose an option of one of the application's own lists, by its name. */
  async pick(css: string, name: string): Promise<void> {
    await this.click(css)
    await this.waitFor(`the option ${name}`, () =>
      this.run(
        `const option = [...document.querySelectorAll('[role=option]')].find((each) => each.textContent.includes(arguments[0]))
         option?.click()
         return Boolean(option)`,
        name,
      ),
    )
  }

  /** Choose an option of one of the browser's own lists, by all that it says. */
  async choose(css: string, label: string): Promise<void> {
    await this.waitFor(`the option ${label} of ${css}`, async () => {
      const list = await this.find(css)
      const option = await list.findElements(By.xpath(`.//option[normalize-space(.)="${label}"]`))
      await option[0]?.click()
      return option.length > 0
    })
  }

  /** Keys to whatever has the focus. */
  async keys(...keys: string[]): Promise<void> {
    await this.waitFor('to press keys', async () => {
      await (await this.driver.switchTo().activeElement()).sendKeys(...keys)
      return true
    })
  }

  /** Keys to the page, with nothing focused: shortcuts. */
  async shortcut(...keys: string[]): Promise<void> {
    await this.run('document.activeElement.blur()')
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform()
  }

  /** Put a text into a field in the place of what stands there, as soon as it may be edited: a rig that was just opened is read first. */
  async type(css: string, ...keys: string[]): Promise<void> {
    await this.waitFor(`to type into ${css}`, async () => {
      const field = await this.find(css)
      if (!(await field.isEnabled())) return false
      await field.sendKeys(Key.chord(Key.CONTROL, 'a'), ...keys)
      return true
    })
  }

  async focus(css: string): Promise<void> {
    await this.find(css)
    await this.run('document.querySelector(arguments[0]).focus()', css)
  }

  hasFocus(css: string): Promise<boolean> {
    return this.run('return document.activeElement.matches(arguments[0])', css)
  }

  async focused(css: string): Promise<void> {
    await this.waitFor(`the focus on ${css}`, () => this.hasFocus(css))
  }

  /** A click that no pointer makes, with keys held down. */
  async clickBare(css: string, how: object = {}): Promise<void> {
    await this.find(css)
    await this.run(
      `document.querySelector(arguments[0]).dispatchEvent(
         new MouseEvent('click', { bubbles: true, cancelable: true, ...arguments[1] }))`,
      css,
      how,
    )
  }

  /** What a look at the page gives, once it gives the same twice; nothing never counts. */
  async whenStill<T>(what: string, look: () => Promise<T | null>): Promise<NonNullable<T>> {
    let before = 'null'
    const { seen } = await this.waitFor(what, async () => {
      const seen = await look()
      const now = JSON.stringify(seen)
      const isStill = seen !== null && now === before
      before = now
      if (!isStill) await pause(2 * LOOK_AGAIN_MS)
      return isStill ? { seen } : null
    })
    return seen as NonNullable<T>
  }

  /**
   * The middle of the first element that a CSS selector finds, in px, once it stands still. A pointer that goes to a
   * point is not lost when what is there is drawn anew.
   * @param block Where in its region it is scrolled to first, if it has to be.
   */
  middleOf(css: string, block: ScrollLogicalPosition | null = null): Promise<{ x: number; y: number }> {
    return this.whenStill(`${css} to stand still`, () =>
      this.run<{ x: number; y: number } | null>(
        `const element = document.querySelector(arguments[0])
         if (!element) return null
         if (arguments[1]) element.scrollIntoView({ block: arguments[1] })
         const box = element.getBoundingClientRect()
         return { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) }`,
        css,
        block,
      ),
    )
  }

  /** Press on the middle of an element, move by so many px from there step by step, let go. */
  async drag(css: string, steps: readonly { x: number; y: number }[], ms = 100): Promise<void> {
    const { x, y } = await this.middleOf(css)
    const actions = this.driver.actions({ async: true }).move({ x, y, duration: 0 }).press()
    for (const step of steps) actions.move({ x: x + step.x, y: y + step.y, duration: ms })
    await actions.release().perform()
  }

  /** Select controls on the surface in order, as a click and Shift-clicks do. */
  async select(...ids: string[]): Promise<void> {
    for (const [index, id] of ids.entries())
      await this.clickBare(`[data-control="${id}"]`, { shiftKey: index > 0 })
  }

  /** Make a change that is held back because it makes something unheard. */
  async makePending(): Promise<void> {
    await this.click('[data-testid=pending-make]')
    await this.counts('[data-testid=pending]', 0)
  }

  /** Take back the last edit, whose label begins so. */
  undo(label: string): Promise<void> {
    return this.click(`button[aria-label^="Undo: ${label}"]`)
  }

  /** Wait until the last edit has a label that begins so. */
  async canUndo(label: string): Promise<void> {
    await this.find(`button[aria-label^="Undo: ${label}"]:not([disabled])`)
  }

  /** How many findings the application counts, once it has counted. */
  async findings(): Promise<number> {
    const text = await this.text('[data-testid=findings-count]')
    return text === 'No findings' ? 0 : Number(/\d+/.exec(text)?.[0] ?? Number.NaN)
  }

  async hasFindings(wanted: number): Promise<void> {
    await this.waitFor(`${wanted} findings`, async () => (await this.findings()) === wanted)
  }

  /** Wait for the first count of findings. */
  firstFindings(): Promise<number> {
    return this.waitFor('the findings to be counted', async () => {
      const found = await this.findings()
      return Number.isNaN(found) ? null : { found }
    }).then(({ found }) => found)
  }

  /** The address tag that stands on a control of the surface. */
  tagOf(id: string): Promise<string> {
    return this.text(`[data-control="${id}"] .tagtext`)
  }

  async hasTag(id: string, tag: string): Promise<void> {
    await this.says(`[data-control="${id}"] .tagtext`, new RegExp(`^${tag.replace('+', '\\+')}$`))
  }

  /** How many messages the Bench has kept, once no more come. */
  messagesKept(): Promise<number> {
    return this.whenStill('no more messages to come', async () => ({
      count: Number(/[\d,]+/.exec(await this.text('[data-testid=tape-count]'))?.[0].replaceAll(',', '') ?? 0),
    })).then(({ count }) => count)
  }

  devTools(command: string, params: object): Promise<unknown> {
    return this.driver.sendAndGetDevToolsCommand(command, params)
  }

  async setPage(width: number, height: number): Promise<void> {
    const size = { width, height, deviceScaleFactor: 1, mobile: false }
    await this.devTools('Emulation.setDeviceMetricsOverride', size)
  }

  /** Run a script in every document that this tab loads, until the next `open`; gives how to stop that. */
  async atEveryLoad(source: string): Promise<() => Promise<void>> {
    const command = 'Page.addScriptToEvaluateOnNewDocument'
    const { identifier } = (await this.devTools(command, { source })) as { identifier: string }
    this.scripts.push(identifier)
    return async () => {
      await this.devTools('Page.removeScriptToEvaluateOnNewDocument', { identifier })
    }
  }

  /** Load a page of the application, with what is stored already, and wait until the rig was checked. */
  async go(path: string): Promise<void> {
    await this.driver.get(`${ADDRESS}${path}`)
    await this.find('[data-testid=findings-count]')
  }

  /**
   * Begin anew: one tab, nothing stored but this rig, or nothing at all, where the application opens the demo as it is found.
   * Every test begins so, and none goes on with what another has left.
   */
  async open(path: string, rig: Rig | null = null): Promise<void> {
    const began = Date.now()
    await this.closeOtherTabs()
    for (const identifier of this.scripts.splice(0))
      await this.devTools('Page.removeScriptToEvaluateOnNewDocument', { identifier }).catch(() => null)
    await this.setPage(1280, 800)
    for (const name of readdirSync(this.ofContext.downloads)) rmSync(join(this.ofContext.downloads, name))
    await this.driver.get(QUIET_PAGE)
    await this.devTools('Storage.clearDataForOrigin', { origin: ADDRESS, storageTypes: 'all' })
    await this.run('sessionStorage.clear()')
    if (rig)
      await this.runAsync(
        `${inject('shelfScript')}
         shelf.putOnShelf(JSON.parse(arguments[0])).then(() => arguments[1](null))`,
        // As a text: ChromeDriver puts the keys of objects into another order.
        JSON.stringify(rig),
      )
    await this.go(path)
    this.spent.opening += Date.now() - began
  }

  private tabs: string[] = []

  /** Open one more tab of the application and go on there; gives its handle. */
  async newTab(path: string): Promise<string> {
    const handle = await this.blankTab()
    await this.go(path)
    return handle
  }

  async blankTab(): Promise<string> {
    const handle = await this.ofContext.newTab()
    this.tabs.push(handle)
    await this.setPage(1280, 800)
    if (SLOWER > 1) await this.devTools('Emulation.setCPUThrottlingRate', { rate: SLOWER })
    if (!this.keepsApplication)
      await this.devTools('Page.addScriptToEvaluateOnNewDocument', {
        source: 'delete Navigator.prototype.serviceWorker',
      })
    return handle
  }

  toTab(handle: string): Promise<void> {
    return this.driver.switchTo().window(handle)
  }

  /** Close this tab and go on in another. */
  async closeTab(next: string): Promise<void> {
    const handle = await this.driver.getWindowHandle()
    this.tabs = this.tabs.filter((each) => each !== handle)
    await this.driver.close()
    await this.toTab(next)
  }

  private async closeOtherTabs(): Promise<void> {
    const [first = await this.blankTab(), ...others] = this.tabs
    for (const other of others) {
      await this.toTab(other)
      await this.driver.close()
    }
    this.tabs = [first]
    await this.toTab(first)
  }

  constructor(private readonly keepsApplication: boolean) {}

  /** The bytes of the next download whose name ends so. */
  async downloadedBytes(ending: string): Promise<Uint8Array> {
    const folder = this.ofContext.downloads
    return this.waitFor(`a download ending in ${ending}`, async () => {
      const name = readdirSync(folder).find((file) => file.endsWith(ending))
      if (name === undefined) return null
      const bytes = new Uint8Array(readFileSync(join(folder, name)))
      // The name is there before what it names.
      if (bytes.length === 0) return null
      rmSync(join(folder, name))
      return bytes
    })
  }

  async downloaded(ending: string): Promise<string> {
    return Buffer.from(await this.downloadedBytes(ending)).toString('utf8')
  }

  /** The rig that is open, as the application exports it. */
  async exported(): Promise<string> {
    await this.click('[data-testid=rig-menu]')
    await this.press('Export')
    const text = await this.downloaded('.json')
    await this.counts('#rig-name', 0)
    return text
  }

  /** Give bytes or a text as a file to whatever opens a choice of files. */
  async giveFile(
    open: () => Promise<void>,
    name: string,
    content: string | Uint8Array,
    blanks = 0,
  ): Promise<void> {
    await this.run(`
      window.__input = null
      const click = HTMLInputElement.prototype.click
      HTMLInputElement.prototype.click = function () {
        if (this.type !== 'file') return click.call(this)
        window.__input = this
      }`)
    await open()
    await this.waitFor('a choice of files', () => this.run('return Boolean(window.__input)'))
    await this.run(
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

  /** Give a file to the application's own import of rigs. */
  importFile(name: string, text: string, blanks = 0): Promise<void> {
    const choose = async (): Promise<void> => {
      await this.click('[data-testid=rig-menu]')
      await this.press('Import a file')
    }
    return this.giveFile(choose, name, text, blanks)
  }

  async shoot(): Promise<Buffer> {
    return Buffer.from(await this.driver.takeScreenshot(), 'base64')
  }

  /** What the page has logged as errors since this was asked last. */
  async errors(): Promise<string[]> {
    const entries = await this.driver.manage().logs().get('browser')
    return entries.filter(({ level }) => level.name === 'SEVERE').map(({ message }) => message)
  }

  async begin(profile: string | null): Promise<void> {
    this.context = profile === null ? await freshContext() : await ownBrowser(profile)
    this.tabs = []
    await this.blankTab()
    await this.errors()
  }

  async end(): Promise<void> {
    await this.context?.end()
    this.context = null
  }
}

const LOGS = process.env.DEFT_LOGS ?? join(tmpdir(), 'deft-lattice-browser')
mkdirSync(LOGS, { recursive: true })

/** Keep a picture of the page on which a test has failed, and say where. */
async function keepPicture(page: Page, { task }: TestContext): Promise<void> {
  const path = join(LOGS, `${task.name.replaceAll(/[^\w]+/g, '-').slice(0, 80)}.png`)
  writeFileSync(path, await page.shoot())
  console.log(`The page as “${task.name}” failed: ${path}`)
}

export interface PageOptions {
  /** A profile that a browser of its own goes on with; else a fresh context in the browser of the worker. */
  profile?: string
  /** Whether the browser may keep the application for later, which takes twice the work of showing it. */
  keepsApplication?: boolean
  /** Errors in the log of the page that the tests of this file bring about. */
  expectedErrors?: RegExp
}

/**
 * The page of a file of tests: a fresh context before them all. After each test the log of the page must hold no error;
 * where a test has failed, a picture is kept.
 */
export function usePage({ profile, keepsApplication = false, expectedErrors }: PageOptions = {}): Page {
  const page = new Page(keepsApplication)
  beforeAll(() => page.begin(profile ?? null))
  afterEach(async (test) => {
    if (test.task.result?.state === 'fail') await keepPicture(page, test)
    const errors = await page.errors()
    expect(errors.filter((error) => !expectedErrors?.test(error))).toEqual([])
  })
  afterAll(async () => {
    await page.end()
    appendFileSync(join(LOGS, 'spent.jsonl'), `${JSON.stringify(page.spent)}\n`)
  })
  return page
}

/** `kind-from` to `kind-to`, as ids of controls. */
export const idsFrom = (kind: string, from: number, to: number): string[] =>
  Array.from({ length: to - from + 1 }, (_, index) => `${kind}-${from + index}`)

/** A page in a fresh context, for use outside a test. The caller ends it with `end`. */
export async function startPage(): Promise<Page> {
  const page = new Page(false)
  await page.begin(null)
  return page
}
