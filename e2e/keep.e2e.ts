import { describe, expect, it } from 'vitest'
import { ADDRESS, Key, usePage } from './support/page'

// The page also logs an error when the browser cannot save or read a rig.
const page = usePage({ expectedErrors: /could not be (kept|written)|OutdatedRigError| r$/ })

const named = (name: string): Promise<void> => page.reads('[data-testid=rig-menu]', name)
const status = (words: string): Promise<void> => page.says('[role=status]', words)
const trouble = (words: string | RegExp): Promise<void> => page.says('[data-testid=trouble]', words)
const noTrouble = (): Promise<void> => page.counts('[data-testid=trouble]', 0)
/** No bar says that this tab only reads. */
const mayEdit = (): Promise<void> => page.counts('[role=status]', 0)
const isKept = (): Promise<unknown> => page.find('[data-keep=kept]')
const undo = (): Promise<void> => page.keys(Key.chord(Key.CONTROL, 'z'))

async function rename(name: string): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await page.type('#rig-name', name, Key.ENTER)
  await named(name)
  await page.keys(Key.ESCAPE)
}

/** The demo with a name of its own, edited here and open in a second tab, which is shown; gives both tabs. */
async function twoTabs(name: string): Promise<{ first: string; second: string }> {
  await page.open('/desk')
  await rename(name)
  await isKept()
  const first = await page.driver.getWindowHandle()
  const second = await page.newTab('/desk')
  await status('open in another tab')
  return { first, second }
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
const makeRoom = (): Promise<unknown> => page.run('window.isFull = false')

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
  it('the editing tab is told that the other tab deleted its rig, and keeps its work; the bin restores the old rig', async () => {
    const { first, second } = await twoTabs('Edited here')
    await page.click('[data-testid=rig-menu]')
    await page.press('Delete')
    await page.toTab(first)
    await status('deleted in another tab')
    await named('Edited here')
    await page.press('Keep as a new rig')
    await named('Edited here copy')
    await rename('Edited on')
    await page.toTab(second)
    await page.click('[data-testid=rig-menu]')
    await page.press('Deleted rigs')
    await page.says('[data-testid=rig-bin]', /Edited here\s+30 more days in use/)
    await page.press('Take back')
    await named('Edited here')
  })

  it('taking over waits for the last edits of a burst, and drops none of them', async () => {
    const { first, second } = await twoTabs('Before the burst')
    await page.toTab(first)
    // Edits that cannot be written yet, then at once the other tab.
    await page.click('[data-testid=rig-menu]')
    await page.run(HELD_FOR(2500))
    for (let turn = 0; turn < 6; turn++) await page.type('#rig-name', `Burst ${turn}`, Key.ENTER)
    await page.toTab(second)
    await page.press('Take over')
    await mayEdit()
    await named('Burst 5')
    await page.closeTab(first)
    await mayEdit()
  })

  it('edits that could not be kept before another tab took over stay, and can be kept as a new rig', async () => {
    const { first, second } = await twoTabs('Kept')
    await page.toTab(first)
    await page.run(FULL_DISK)
    await rename('Not kept')
    await page.find('[data-testid=trouble]')
    await page.toTab(second)
    await page.press('Take over')
    await mayEdit()
    await named('Kept')
    await page.closeTab(first)
    await status('its last edits were not kept')
    await named('Not kept')
    await makeRoom()
    await page.press('Keep as a new rig')
    await named('Not kept copy')
  })
})

describe('a browser that cannot keep', () => {
  it('says so as long as its storage is full, and keeps everything once there is room', async () => {
    await page.open('/desk')
    await page.find('[data-testid=surface]')
    await isKept()
    await page.run(FULL_DISK)
    await rename('On a full disk')
    await trouble('not kept')
    await rename('Still on a full disk')
    await page.counts('[data-testid=trouble]', 1)
    await makeRoom()
    await noTrouble()
    await page.go('/desk')
    await named('Still on a full disk')
    await undo()
    await named('On a full disk')
  })

  it('opens a rig on a disk that is full already, and keeps what is edited once there is room', async () => {
    await page.open('/desk')
    await rename('Before it was full')
    await isKept()
    const stop = await page.atEveryLoad(FULL_DISK)
    await page.go('/desk')
    await named('Before it was full')
    await rename('Edited on a full disk')
    await trouble('not kept')
    await stop()
    await makeRoom()
    await noTrouble()
    await isKept()
    await page.go('/desk')
    await named('Edited on a full disk')
    await noTrouble()
  })

  it('names a rig that cannot be opened, and stays with the one that is', async () => {
    await page.open('/desk')
    await rename('Readable')
    await isKept()
    await page.runAsync(`
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
    await named('Readable')
    await page.click('[data-testid=rig-menu]')
    await page.press('From long ago')
    await trouble(/“From long ago” .* cannot be read/)
    await named('Readable')
  })

  it('reads a large file beside its other work, and stops when asked', async () => {
    await page.open('/desk')
    const before = await page.text('[data-testid=rig-menu]')
    await page.importFile('large.json', '{"rig":', 90_000_000)
    await page.says('[data-testid=reading]', /“large.json”… \d+ %/)
    await page.press('Stop')
    await page.counts('[data-testid=reading]', 0)
    await page.counts('[role=dialog]', 0)
    await named(before)
  })

  it('writes a rig anew when everything is cleared under the open page', async () => {
    await page.open('/desk')
    await rename('Before it was cleared')
    await rename('Cleared')
    await isKept()
    await page.devTools('Storage.clearDataForOrigin', { origin: ADDRESS, storageTypes: 'indexeddb' })
    // The browser tells the page; nobody has to edit anything.
    await page.waitFor('it to be written anew', () =>
      page.runAsync(`
        const done = arguments[0]
        indexedDB.databases().then(([found]) => {
          if (!found) return done(false)
          const opening = indexedDB.open(found.name)
          opening.onsuccess = () => {
            const database = opening.result
            const read = database.objectStoreNames.contains('steps')
              ? database.transaction('steps').objectStore('steps').count() : null
            if (!read) { database.close(); return done(false) }
            read.onsuccess = () => { database.close(); done(read.result > 1) }
          }
        })`),
    )
    await noTrouble()
    await page.go('/desk')
    await named('Cleared')
    await undo()
    await named('Before it was cleared')
  })

  it('works without any storage: the demo opens, is edited and exported, and the page says that nothing is kept', async () => {
    await page.open('/desk')
    await page.atEveryLoad(`Object.defineProperty(window, 'indexedDB', { value: undefined })`)
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await trouble('keeps nothing')
    await rename('Nowhere')
    expect(await page.exported()).toContain('"Nowhere"')
  })
})
