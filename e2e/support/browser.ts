import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Builder, type WebDriver } from 'selenium-webdriver'
import { Options, ServiceBuilder, type Driver } from 'selenium-webdriver/chrome.js'
import { inject } from 'vitest'
import WebSocket from 'ws'

/** How many times slower the pages are to be, to find what only a slow machine shows. */
export const SLOWER = Number(process.env.DEFT_SLOWER ?? 1)

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // What moves only to be looked at would have to be waited for.
  '--force-prefers-reduced-motion',
]

const options = (profile: string | null, downloads: string | null): Options => {
  const chosen = new Options()
  chosen.setChromeBinaryPath(process.env.CHROMIUM ?? '/usr/bin/chromium')
  chosen.addArguments(...FLAGS)
  if (profile !== null) chosen.addArguments(`--user-data-dir=${profile}`)
  if (downloads !== null) chosen.setUserPreferences({ 'download.default_directory': downloads })
  return chosen
}

/** A command to the browser itself, which no single page may give. */
type Command = (method: string, params?: object) => Promise<any>

/** The browser's own DevTools connection. */
async function commandsOf(debuggerAddress: string): Promise<Command> {
  const answer = await fetch(`http://${debuggerAddress}/json/version`)
  const { webSocketDebuggerUrl } = (await answer.json()) as { webSocketDebuggerUrl: string }
  const socket = new WebSocket(webSocketDebuggerUrl)
  await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject))
  const waiting = new Map<
    number,
    { method: string; resolve: (result: any) => void; reject: (error: Error) => void }
  >()
  socket.on('message', (data) => {
    const { id, result, error } = JSON.parse(String(data))
    const asked = waiting.get(id)
    waiting.delete(id)
    if (error) asked?.reject(new Error(`${asked.method}: ${error.message}`))
    else asked?.resolve(result)
  })
  let last = 0
  return (method, params = {}) =>
    new Promise((resolve, reject) => {
      waiting.set(++last, { method, resolve, reject })
      socket.send(JSON.stringify({ id: last, method, params }))
    })
}

export interface Browser {
  driver: Driver
  command: Command
}

/** Each worker has one browser for all its files. */
const ofThisWorker = globalThis as { deftBrowser?: Promise<Browser> }

async function startBrowser(): Promise<Browser> {
  const driver = (await new Builder()
    .usingServer(inject('driverUrl'))
    .forBrowser('chrome')
    .setChromeOptions(options(null, null))
    .build()) as WebDriver as Driver
  const { debuggerAddress } = (await driver.getCapabilities()).get('goog:chromeOptions') as {
    debuggerAddress: string
  }
  return { driver, command: await commandsOf(debuggerAddress) }
}

export const sharedBrowser = (): Promise<Browser> => (ofThisWorker.deftBrowser ??= startBrowser())

/** Storage, windows and downloads that nothing else in the browser shares. */
export interface Context {
  driver: Driver
  downloads: string
  /** Open one more empty tab and go on there; gives its handle. */
  newTab: () => Promise<string>
  /** Close all tabs and forget all storage. */
  end: () => Promise<void>
}

/** A fresh context in the browser of this worker. */
export async function freshContext(): Promise<Context> {
  const { driver, command } = await sharedBrowser()
  const downloads = mkdtempSync(join(tmpdir(), 'deft-downloads-'))
  const { browserContextId } = await command('Target.createBrowserContext')
  await command('Browser.setDownloadBehavior', {
    behavior: 'allow',
    browserContextId,
    downloadPath: downloads,
  })
  const newTab = async (): Promise<string> => {
    const { targetId } = await command('Target.createTarget', { url: 'about:blank', browserContextId })
    await driver.switchTo().window(targetId)
    return targetId
  }
  const end = async (): Promise<void> => {
    await command('Target.disposeBrowserContext', { browserContextId })
    rmSync(downloads, { recursive: true, force: true, maxRetries: 3 })
  }
  return { driver, downloads, newTab, end }
}

/** A browser of its own on a profile that stays when it ends. */
export async function ownBrowser(profile: string): Promise<Context> {
  const downloads = mkdtempSync(join(tmpdir(), 'deft-downloads-'))
  const driver = (await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options(profile, downloads))
    .setChromeService(new ServiceBuilder(process.env.CHROMEDRIVER ?? '/usr/bin/chromedriver'))
    .build()) as WebDriver as Driver
  return {
    driver,
    downloads,
    newTab: async () => {
      await driver.switchTo().newWindow('tab')
      return driver.getWindowHandle()
    },
    end: async () => {
      await driver.quit()
      rmSync(downloads, { recursive: true, force: true, maxRetries: 3 })
    },
  }
}
