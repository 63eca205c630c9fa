import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { perform, writeRig, type Rig } from '../core/rig'
import { cutPart, writePart } from '../core/rig/part'
import { giveFile, importText, Key, pickOption, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
})
afterAll(() => page.quit())

const performed = nineRingsRig('as-performed')
const ferric = performed.destinations.find(({ name }) => name === 'Ferric Mile')?.id ?? ''
const without: Rig = perform(performed, 'x', [{ type: 'destination-remove', destination: ferric }]).rig

async function openNamed(rig: Rig, name: string): Promise<void> {
  await page.go('/desk')
  await page.find('[data-testid=rig-menu]')
  await importText(page, `${name}.json`, writeRig({ ...rig, name }))
  await page.waitFor('the rig', async () => (await page.text('[data-testid=rig-menu]')).includes(name))
}
const soon = (what: string, css: string, text: string | RegExp): Promise<boolean> =>
  page.waitFor(`${what}: ${String(text)}`, async () => {
    const now = await page.text(css)
    return typeof text === 'string' ? now.includes(text) : text.test(now)
  })
const count = (css: string, wanted: number): Promise<boolean> =>
  page.waitFor(`${wanted} of ${css}`, async () => (await page.count(css)) === wanted)
const STEPS = '[data-history=step]'

describe('history', () => {
  it(
    'keeps a version, says what changed since, and brings back one thing or all',
    { timeout: 90_000 },
    async () => {
      await openNamed(performed, 'Kept')
      await page.press('History')
      await soon('nothing yet', 'main', 'Nothing was edited yet')
      await setField(page, '[data-testid=version-name]', 'Before the tour', Key.ENTER)
      await soon('the version', '[data-testid=history-line]', 'Before the tour')

      await page.press('Rig')
      await page.click('[aria-label="Delete Transit"]')
      await page.click('[data-testid=rig-menu]')
      await setField(page, '#rig-name', 'Kept on', Key.ENTER)
      await page.keys(Key.ESCAPE)
      await page.press('History')
      await count(STEPS, 2)
      await soon('what an edit did', '[data-testid=history-line]', 'The rig, Passages, Transit')

      await setField(page, '[data-testid=history-search]', 'passages transit')
      await count(STEPS, 1)
      await setField(page, '[data-testid=history-search]', Key.BACK_SPACE)
      await count(STEPS, 2)

      await page.press('Before the tour')
      await soon('what differs', '[data-testid=history-summary]', '2 things differ')
      await page.click('[data-changes=csv]')
      expect(await page.downloaded('what-changed.csv')).toContain('gone,Transit')
      await page.click('[data-change=gone] [data-testid=bring-back]')
      await soon('less differs', '[data-testid=history-summary]', '1 thing differs')
      await count(STEPS, 3)
      await page.keys(Key.chord(Key.CONTROL, 'z'))
      await soon('it is gone again', '[data-testid=history-summary]', '2 things differ')
      await page.click('[data-testid=bring-back-all]')
      await soon('all is as it was', '[data-testid=history-same]', 'Nothing differs')

      await page.driver.navigate().refresh()
      await count(STEPS, 3)
      await soon('it is kept', '[data-testid=history-line]', 'Before the tour')
      await soon('the name came back', '[data-testid=rig-menu]', 'Kept')
    },
  )

  it('walks the line by keys, and marks the surface', { timeout: 60_000 }, async () => {
    const line = await page.find(`${STEPS}`)
    await line.click()
    await page.keys(Key.ARROW_DOWN, Key.ARROW_DOWN)
    await soon('the first edit', '[data-testid=history-title]', /From before “Delete Transit”, .* to now/)
    await page.keys(Key.ARROW_UP)
    await soon('the second', '[data-testid=history-title]', 'From before “Rename the rig”')
    await expect
      .poll(() => page.driver.executeScript('return document.activeElement.dataset.history'))
      .toBe('step')
    await pickOption(page, '[data-testid=compare-until] button', 'just after this edit')
    await soon('what it did', '[data-testid=history-summary]', '1 thing differs')
    await page.driver
      .actions()
      .keyDown(Key.SHIFT)
      .click(await page.find('[data-history=step]'))
      .keyUp(Key.SHIFT)
      .perform()
    await soon('up to another edit', '[data-testid=history-title]', /to after “Bring/)
    await page.click('[data-testid=compare-until] button')
    await page.click('[data-testid=compare-until] [role=option]:first-child')
    await setField(page, '[data-testid=version-name]', 'One edit in', Key.ENTER)
    await soon('it has a name', '[data-testid=history-title]', 'Since “One edit in”')
    await page.click('[data-testid=compare-until] button')
    // The list of edits has options of the same name.
    await page.click('[data-testid=compare-until] [role=option]:last-child')
    await soon('between two versions', '[data-testid=history-title]', 'From “One edit in”')
    await soon('what differs between them', '[data-testid=history-summary]', '1 thing differs')
    await expect.poll(() => page.count('[data-testid=bring-back]:not([disabled])')).toBe(0)
    await page.click('[data-testid=compare-end]')
    await soon('now', '[data-testid=history-title]', 'The rig as it is now')
  })

  it('compares with a file, and says what must come along', { timeout: 90_000 }, async () => {
    await openNamed(without, 'Without')
    await page.press('History')
    await compareFile('whole.json', writeRig({ ...performed, name: 'Whole' }))
    await soon('the title', '[data-testid=history-title]', 'From “Whole” to this rig')
    await page.waitFor(
      'what moved it to be marked',
      async () => (await page.count('[data-testid=history-surface] [data-marked=changed]')) > 0,
    )
    await page.click('[data-group^=destination] ul li:nth-child(2) [data-testid=bring-back]')
    await soon('the offer', '[data-testid=bring-back-offer]', 'Ferric Mile')
    const differed = async (): Promise<number> => parseInt(await page.text('[data-testid=history-summary]'))
    const before = await differed()
    await page.click('[data-testid=accept-offer]')
    await count(STEPS, 1)
    await page.waitFor('fewer differences', async () => (await differed()) < before)
  })

  it('refuses a file that is no rig, and compares on', { timeout: 60_000 }, async () => {
    const before = await page.text('[data-testid=history-summary]')
    await compareFile('broken.json', '{"format": "deft-lattice/rig"')
    await soon('why', '[data-testid=history-failure]', 'cannot be compared')
    await expect.poll(() => page.text('[data-testid=history-summary]')).toBe(before)
  })
})

describe('comparing again', () => {
  it('goes on after the browser has tidied its memory', { timeout: 90_000 }, async () => {
    await openNamed(performed, 'Tidied')
    await page.press('History')
    await compareFile('found.json', writeRig(nineRingsRig('as-found')))
    await page.find('[data-testid=history-findings]')
    for (let round = 0; round < 3; round++) {
      await page.devTools('HeapProfiler.collectGarbage', {})
      await new Promise((resolve) => setTimeout(resolve, 300))
    }
    await compareFile('same.json', writeRig({ ...performed, name: 'Tidied' }))
    await soon('it is compared', '[data-testid=history-same]', 'Nothing differs')
  })
})

async function compareFile(name: string, text: string): Promise<void> {
  await giveFile(page, () => pickOption(page, '[data-testid=compare-other] button', 'A file'), name, text)
}

describe('parts', () => {
  it(
    'carries a controller into another rig, as one edit, and says what collides',
    { timeout: 90_000 },
    async () => {
      const syzra = cutPart(performed, { kind: 'controller', id: 'syzra' })
      if (!syzra) throw new Error('not there')
      await openNamed(performed, 'Parts')
      await page.press('Rig')
      await givePart('syzra.json', writePart(syzra))
      await soon('the new name', '[data-testid=part-offer]', '“Syzra 24” will be called “Syzra 24 2”')
      await soon('what is used again', '[data-testid=part-offer]', 'surface of Syzra 24 is here already')
      await page.click('[data-testid=part-accept]')
      await soon('it is there', 'main', 'Syzra 24 2')
      await page.press('History')
      await count(STEPS, 1)
      await soon('the edit', '[data-testid=history-line]', 'Take in controller Syzra 24')
    },
  )

  it('takes a destination straight from another rig on the shelf', { timeout: 90_000 }, async () => {
    await openNamed(without, 'Without Ferric')
    await page.press('Rig')
    await pickOption(page, '[data-testid=part-from] button', 'Parts')
    await page.press('Ferric Mile')
    await soon('nothing collides', '[data-testid=part-offer]', 'Nothing would be found')
    await page.click('[data-testid=part-accept]')
    await soon('it is there', 'main', 'Ferric Mile')
  })

  it(
    'comes in place of what is there, says what that costs, and is undone in one step',
    { timeout: 90_000 },
    async () => {
      const asFound = cutPart(nineRingsRig('as-found'), { kind: 'controller', id: 'syzra' })
      if (!asFound) throw new Error('not there')
      await openNamed(performed, 'In place')
      await page.press('Rig')
      await givePart('syzra.json', writePart(asFound))
      await pickOption(page, '[data-testid=part-place] button', 'in place of Syzra 24')
      await soon('what it costs', '[data-testid=part-costs]', /Teach again\s.*Drift/)
      await soon('what would be found', '[data-testid=part-offer]', 'Then these would be found:')
      await page.click('[data-testid=part-accept]')
      await soon('findings', '[data-testid=findings-count]', /\d+ findings/)
      await expect.poll(() => page.text('main')).not.toContain('Syzra 24 2')
      await page.keys(Key.chord(Key.CONTROL, 'z'))
      await soon('it is as it was', '[data-testid=findings-count]', 'No findings')
    },
  )

  it('refuses what is no part, and says where', { timeout: 60_000 }, async () => {
    await givePart('rig.json', writeRig(performed))
    await soon('why', '[data-testid=part-failure]', 'format: This is not a part')
    await givePart('cut.json', '{"format": "deft-lattice/part", "version": 1,')
    await soon('where', '[data-testid=part-failure]', 'line 1')
  })
})

async function givePart(name: string, text: string): Promise<void> {
  await giveFile(page, () => page.click('[data-testid=part-file]'), name, text)
}

describe('a backup', () => {
  it(
    'brings a rig back after it was removed for good, and leaves what is here',
    { timeout: 90_000 },
    async () => {
      await openNamed(performed, 'To be lost')
      await page.press('History')
      await setField(page, '[data-testid=version-name]', 'Opening night', Key.ENTER)
      await soon('the version', '[data-testid=history-line]', 'Opening night')
      await page.click('[data-testid=backup-make]')
      const bytes = await page.downloadedBytes('.json.gz')
      await soon('when', '[data-testid=backup-last]', 'The last backup was made')

      await page.driver.executeScript(`
      const request = indexedDB.open('deft-lattice')
      request.onsuccess = () => {
        const write = request.result.transaction(['rigs', 'snapshots', 'steps', 'versions'], 'readwrite')
        for (const name of write.objectStoreNames) write.objectStore(name).clear()
        write.oncomplete = () => (window.__cleared = true)
      }`)
      await page.waitFor('all is cleared', async () =>
        Boolean(await page.driver.executeScript('return window.__cleared')),
      )
      await page.go('/history')
      await page.find('[data-testid=backup]')
      await giveFile(page, () => page.click('[data-testid=backup-open]'), 'all.json.gz', bytes)
      await soon('what it would do', '[data-testid=restore]', 'not here: it would be added')
      await page.click('[data-testid=restore-new]')
      await soon('it is done', '[data-testid=restore]', 'restored')
      await page.click('[data-testid=rig-menu]')
      await page.press('To be lost')
      await soon('its version', '[data-testid=history-line]', 'Opening night')

      const broken = bytes.slice()
      broken[600] = (broken[600] ?? 0) ^ 1
      await giveFile(page, () => page.click('[data-testid=backup-open]'), 'broken.json.gz', broken)
      await soon('it is refused', '[data-testid=backup-failure]', 'nothing has changed')
    },
  )
})

/** The text of the backup file, where the browser keeps the file that a player would have on a disk. */
const backupText = (): Promise<string> =>
  page.driver.executeAsyncScript(`
    const done = arguments[0]
    const read = async () => {
      const folder = await navigator.storage.getDirectory()
      const file = await (await folder.getFileHandle('deft-lattice-backup.json.gz')).getFile()
      return new Response(file.stream().pipeThrough(new DecompressionStream('gzip'))).text()
    }
    read().then(done, () => done(''))`)
async function renameTo(name: string): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await setField(page, '#rig-name', name, Key.ENTER)
  await page.keys(Key.ESCAPE)
}

describe('a backup file', () => {
  it(
    'is written after every change, also after a reload, and says when it is gone',
    { timeout: 120_000 },
    async () => {
      await openNamed(performed, 'Written')
      await page.press('History')
      // The dialog of the system cannot be driven: the file lies in the folder that the browser has for this page.
      await page.driver.executeScript(`
      window.showSaveFilePicker = async ({ suggestedName }) =>
        (await navigator.storage.getDirectory()).getFileHandle(suggestedName, { create: true })`)
      await page.click('[data-testid=backup-file-choose]')
      await soon(
        'that it is written',
        '[data-testid=backup-file]',
        'everything is written to “deft-lattice-backup',
      )
      await renameTo('Written once')
      await page.waitFor('it in the file', async () => (await backupText()).includes('Written once'))

      await page.go('/history')
      await page.find('[data-testid=backup-file][data-state=writes]')
      await renameTo('Written twice')
      await page.waitFor('it in the file again', async () => (await backupText()).includes('Written twice'))
      expect(JSON.parse(await backupText())).toMatchObject({ format: 'deft-lattice/backup' })

      // A folder of its name stands in its place.
      await page.driver.executeAsyncScript(`
        const done = arguments[0]
        const spoil = async () => {
          const folder = await navigator.storage.getDirectory()
          await folder.removeEntry('deft-lattice-backup.json.gz')
          await folder.getDirectoryHandle('deft-lattice-backup.json.gz', { create: true })
        }
        spoil().then(done)`)
      await renameTo('Written nowhere')
      await soon('why not', '[data-testid=backup-file] [role=alert]', /could not be written|no longer where/)
      await page.find('[data-testid=backup-file][data-state=failed]')
      await page.click('[data-testid=backup-file-leave]')
      await page.find('[data-testid=backup-file-choose]')
    },
  )
})
