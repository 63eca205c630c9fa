import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { ADDRESS, importText, Key, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
})
afterAll(() => page.quit())

const openName = (): Promise<string> => page.text('[data-testid=rig-menu]')
const named = (name: string) =>
  page.waitFor(`“${name}” open`, async () => (await openName()) === name || undefined)
const status = (words: string) =>
  page.waitFor(words, async () => (await page.text('[role=status]')).includes(words))

/** No bar says that this tab only reads. */
const mayEdit = () =>
  page.waitFor('the right to edit', async () => (await page.count('[role=status]')) === 0 || undefined)

async function rename(name: string): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await setField(page, '#rig-name', name, Key.ENTER)
  await named(name)
  await page.keys(Key.ESCAPE)
}

async function newTab(): Promise<string> {
  await page.driver.switchTo().newWindow('tab')
  await page.setPage(1280, 800)
  await page.go('/desk')
  return page.driver.getWindowHandle()
}

/** Every write to the browser's storage fails, as on a full disk, while `window.isFull`. */
const FULL_DISK = `
  window.isFull = true
  for (const method of ['put', 'add', 'delete']) {
    const real = IDBObjectStore.prototype[method]
    IDBObjectStore.prototype[method] = function (...all) {
      if (window.isFull) throw new DOMException('The disk is full.', 'QuotaExceededError')
      return real.apply(this, all)
    }
  }`

/** Another program holds the rigs for so long (ms): what the page writes has to wait. */
const HELD_FOR = (ms: number): string => `
  const opening = indexedDB.open('deft-lattice')
  opening.onsuccess = () => {
    const store = opening.result.transaction('rigs', 'readwrite').objectStore('rigs')
    const until = performance.now() + ${ms}
    const hold = () => {
      if (performance.now() < until) store.count().onsuccess = hold
    }
    hold()
  }`

describe('two tabs', () => {
  let first = ''
  beforeEach(async () => {
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    first = await page.driver.getWindowHandle()
  })

  it('the one that edits is told when the other deletes its rig, and keeps its work as a new rig', async () => {
    await rename('Edited here')
    const second = await newTab()
    await status('open in another tab')
    await page.click('[data-testid=rig-menu]')
    await page.press('Delete')
    await page.driver.switchTo().window(first)
    await status('deleted in another tab')
    await expect.poll(openName).toBe('Edited here')
    await page.press('Keep as a new rig')
    await named('Edited here copy')
    await rename('Edited on')
    await page.driver.switchTo().window(second)
    await page.click('[data-testid=rig-menu]')
    await page.press('Deleted rigs')
    await expect.poll(() => page.text('[data-testid=rig-bin]')).toMatch(/Edited here\s+30 more days in use/)
    await page.driver.close()
    await page.driver.switchTo().window(first)
  })

  it('a deleted rig is taken back from the bin', async () => {
    await page.click('[data-testid=rig-menu]')
    await page.press('Deleted rigs')
    await page.press('Take back')
    await named('Edited here')
  })

  it('taking over waits for the last edits of a burst, and drops none of them', async () => {
    const second = await newTab()
    await status('open in another tab')
    await page.driver.switchTo().window(first)
    // Edits that cannot be written yet, then at once the other tab.
    await page.click('[data-testid=rig-menu]')
    await page.driver.executeScript(HELD_FOR(2500))
    for (let turn = 0; turn < 6; turn++) await setField(page, '#rig-name', `Burst ${turn}`, Key.ENTER)
    await page.driver.switchTo().window(second)
    await page.press('Take over')
    await mayEdit()
    await named('Burst 5')
    await page.driver.close()
    await page.driver.switchTo().window(first)
    await mayEdit()
  })

  it('edits that could not be kept before another tab took over stay, and can be kept as a new rig', async () => {
    const second = await newTab()
    await status('open in another tab')
    await page.driver.switchTo().window(first)
    await page.driver.executeScript(FULL_DISK)
    await rename('Not kept')
    await page.find('[data-testid=trouble]')
    await page.driver.switchTo().window(second)
    await page.press('Take over')
    await mayEdit()
    await named('Burst 5')
    await page.driver.close()
    await page.driver.switchTo().window(first)
    await status('its last edits were not kept')
    await expect.poll(openName).toBe('Not kept')
    await page.driver.executeScript(`window.isFull = false`)
    await page.press('Keep as a new rig')
    await named('Not kept copy')
  })
})

describe('a browser that cannot keep', () => {
  it('says so as long as its storage is full, and keeps everything once there is room', async () => {
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    // Every write to the browser's storage fails from now on, as on a full disk.
    await page.driver.executeScript(FULL_DISK)
    await rename('On a full disk')
    await page.find('[data-testid=trouble]')
    await expect.poll(() => page.text('[data-testid=trouble]')).toContain('not kept')
    await rename('Still on a full disk')
    await expect.poll(() => page.count('[data-testid=trouble]')).toBe(1)
    await page.driver.executeScript(`window.isFull = false`)
    await page.waitFor('it to be kept', async () => (await page.count('[data-testid=trouble]')) === 0)
    await page.go('/desk')
    await named('Still on a full disk')
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await named('On a full disk')
  })

  it('opens a rig on a disk that is full already, and keeps what is edited once there is room', async () => {
    const { identifier } = (await page.devTools('Page.addScriptToEvaluateOnNewDocument', {
      source: FULL_DISK,
    })) as { identifier: string }
    await page.go('/desk')
    await named('On a full disk')
    await rename('Edited on a full disk')
    await expect.poll(() => page.text('[data-testid=trouble]')).toContain('not kept')
    await page.devTools('Page.removeScriptToEvaluateOnNewDocument', { identifier })
    await page.driver.executeScript(`window.isFull = false`)
    await page.waitFor(
      'it to be kept',
      async () => (await (await page.find('[data-keep]')).getAttribute('data-keep')) === 'kept',
    )
    await page.go('/desk')
    await named('Edited on a full disk')
    await expect.poll(() => page.count('[data-testid=trouble]')).toBe(0)
  })

  it('names a rig that cannot be opened, and opens another', async () => {
    await page.driver.executeAsyncScript(`
      const done = arguments[arguments.length - 1]
      const opening = indexedDB.open('deft-lattice')
      opening.onsuccess = () => {
        const transaction = opening.result.transaction(['rigs', 'snapshots'], 'readwrite')
        transaction.objectStore('rigs').add({ id: 'old', name: 'From long ago', position: 0, snapshotAt: 0,
          createdAt: 1, openedAt: 1, deletedAt: 0, owner: null })
        transaction.objectStore('snapshots').add({ id: 'old', rig: { format: 'deft-lattice/rig', version: 1, name: 7 } })
        transaction.oncomplete = () => { opening.result.close(); done() }
      }`)
    await page.go('/desk')
    await named('Edited on a full disk')
    await page.click('[data-testid=rig-menu]')
    await page.press('From long ago')
    await page.find('[data-testid=trouble]')
    await expect.poll(() => page.text('[data-testid=trouble]')).toMatch(/“From long ago” .* cannot be read/)
    await named('Edited on a full disk')
  })

  it('reads a large file beside its other work, and stops when asked', async () => {
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await importText(page, 'large.json', '{"rig":', 90_000_000)
    await page.find('[data-testid=reading]')
    await expect.poll(() => page.text('[data-testid=reading]')).toMatch(/“large.json”… \d+ %/)
    await page.press('Stop')
    await page.waitFor(
      'it to stop',
      async () => (await page.count('[data-testid=reading]')) === 0 || undefined,
    )
    await expect.poll(() => page.count('[role=dialog]')).toBe(0)
    await named('Edited on a full disk')
  })

  it('writes a rig anew when everything is cleared under the open page', async () => {
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await rename('Cleared')
    await page.devTools('Storage.clearDataForOrigin', { origin: ADDRESS, storageTypes: 'indexeddb' })
    // The browser tells the page; nobody has to edit anything.
    await new Promise((resolve) => setTimeout(resolve, 1500))
    await expect.poll(() => page.count('[data-testid=trouble]')).toBe(0)
    await page.go('/desk')
    await named('Cleared')
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await page.waitFor('the name before', async () => (await openName()) !== 'Cleared' || undefined)
  })

  it('works without any storage: the demo opens, is edited and exported, and the page says that nothing is kept', async () => {
    await page.devTools('Page.enable', {})
    await page.devTools('Page.addScriptToEvaluateOnNewDocument', {
      source: `Object.defineProperty(window, 'indexedDB', { value: undefined })`,
    })
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await expect.poll(() => page.text('[data-testid=trouble]')).toContain('keeps nothing')
    await rename('Nowhere')
    await page.click('[data-testid=rig-menu]')
    await page.press('Export')
    expect(await page.downloaded('nowhere.json')).toContain('"Nowhere"')
  })
})
