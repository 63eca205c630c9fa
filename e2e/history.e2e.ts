import { describe, expect, it } from 'vitest'
import { perform, writeRig, type Rig } from '../core/rig'
import { cutPart, writePart } from '../core/rig/part'
import { Key, usePage } from './support/page'
import { AS_FOUND, AS_PERFORMED } from './support/rigs'

// The page also logs an error when the backup file cannot be written.
const page = usePage({ expectedErrors: /backup file could not be written/ })

const ferric = AS_PERFORMED.destinations.find(({ name }) => name === 'Ferric Mile')?.id ?? ''
const WITHOUT: Rig = perform(AS_PERFORMED, 'x', [{ type: 'destination-remove', destination: ferric }]).rig
const STEPS = '[data-history=step]'
const line = (words: string): Promise<void> => page.says('[data-testid=history-line]', words)
const summary = (words: string): Promise<void> => page.says('[data-testid=history-summary]', words)
const title = (words: string | RegExp): Promise<void> => page.says('[data-testid=history-title]', words)
const undo = (): Promise<void> => page.keys(Key.chord(Key.CONTROL, 'z'))

async function rename(name: string): Promise<void> {
  await page.click('[data-testid=rig-menu]')
  await page.type('#rig-name', name, Key.ENTER)
  await page.keys(Key.ESCAPE)
}
async function keepVersion(name: string): Promise<void> {
  await page.type('[data-testid=version-name]', name, Key.ENTER)
  await line(name)
}
const compareFile = (name: string, text: string): Promise<void> =>
  page.giveFile(() => page.pick('[data-testid=compare-other] button', 'A file'), name, text)
/** A version, then two edits: a passage is deleted, and the rig gets another name. */
async function versionAndTwoEdits(): Promise<void> {
  await page.open('/history', { ...AS_PERFORMED, name: 'Kept' })
  await page.says('main', 'Nothing was edited yet')
  await keepVersion('Before the tour')
  await page.press('Rig')
  await page.click('[aria-label="Delete Transit"]')
  await rename('Kept on')
  await page.press('History')
  await page.counts(STEPS, 2)
}

describe('history', () => {
  it('keeps a version, says what changed since, and brings back one thing or all', async () => {
    await versionAndTwoEdits()
    await line('The rig, Passages, Transit')
    await page.type('[data-testid=history-search]', 'passages transit')
    await page.counts(STEPS, 1)
    await page.type('[data-testid=history-search]', Key.BACK_SPACE)
    await page.counts(STEPS, 2)

    await page.press('Before the tour')
    await summary('2 things differ')
    await page.click('[data-changes=csv]')
    expect(await page.downloaded('what-changed.csv')).toContain('gone,Transit')
    await page.click('[data-change=gone] [data-testid=bring-back]')
    await summary('1 thing differs')
    await page.counts(STEPS, 3)
    await undo()
    await summary('2 things differ')
    await page.click('[data-testid=bring-back-all]')
    await page.says('[data-testid=history-same]', 'Nothing differs')

    await page.driver.navigate().refresh()
    await page.counts(STEPS, 3)
    await line('Before the tour')
    await page.reads('[data-testid=rig-menu]', 'Kept')
  })

  it('walks the line by keys, and compares any two points of it', async () => {
    await versionAndTwoEdits()
    await page.click(STEPS)
    await title('From before “Rename the rig”')
    await page.keys(Key.ARROW_DOWN)
    await title(/From before “Delete Transit”, .* to now/)
    await page.keys(Key.ARROW_UP)
    await title('From before “Rename the rig”')
    await page.focused(STEPS)
    await page.keys(Key.ARROW_DOWN)
    await page.pick('[data-testid=compare-until] button', 'just after this edit')
    await summary('1 thing differs')
    await page.shiftClick(STEPS)
    await title(/ to after “Rename the rig”/)
    await page.click(STEPS)
    await title('From before “Rename the rig”')
    await page.click('[data-testid=compare-until] button')
    await page.click('[data-testid=compare-until] [role=option]:first-child')
    await keepVersion('One edit in')
    await title('Since “One edit in”')
    await page.click('[data-testid=compare-until] button')
    // The list of edits has options of the same name.
    await page.click('[data-testid=compare-until] [role=option]:last-child')
    await title('From “One edit in”')
    await summary('1 thing differs')
    await page.counts('[data-testid=bring-back]:not([disabled])', 0)
    await page.click('[data-testid=compare-end]')
    await title('The rig as it is now')
  })

  it('compares with a file, says what must come along, and refuses what is no rig', async () => {
    await page.open('/history', WITHOUT)
    await compareFile('whole.json', writeRig({ ...AS_PERFORMED, name: 'Whole' }))
    await title('From “Whole” to this rig')
    await page.find('[data-testid=history-surface] [data-marked=changed]')
    await page.click('[data-group^=destination] ul li:nth-child(2) [data-testid=bring-back]')
    await page.says('[data-testid=bring-back-offer]', 'Ferric Mile')
    const differed = async (): Promise<number> => parseInt(await page.text('[data-testid=history-summary]'))
    const before = await differed()
    await page.click('[data-testid=accept-offer]')
    await page.counts(STEPS, 1)
    await page.waitFor('fewer differences', async () => (await differed()) < before)
    const left = await page.text('[data-testid=history-summary]')
    await compareFile('broken.json', '{"format": "deft-lattice/rig"')
    await page.says('[data-testid=history-failure]', 'cannot be compared')
    await page.reads('[data-testid=history-summary]', left)
  })

  it('compares again after the browser has tidied its memory', async () => {
    await page.open('/history', { ...AS_PERFORMED, name: 'Tidied' })
    await compareFile('found.json', writeRig(AS_FOUND))
    await page.find('[data-testid=history-findings]')
    for (let round = 0; round < 3; round++) {
      await page.devTools('HeapProfiler.collectGarbage', {})
      await page.driver.sleep(100)
    }
    await compareFile('same.json', writeRig({ ...AS_PERFORMED, name: 'Tidied' }))
    await page.says('[data-testid=history-same]', 'Nothing differs')
  })
})

describe('parts', () => {
  const OFFER = '[data-testid=part-offer]'
  const partOf = (rig: Rig): string => {
    const part = cutPart(rig, { kind: 'controller', id: 'syzra' })
    if (!part) throw new Error('not there')
    return writePart(part)
  }
  const give = (name: string, text: string): Promise<void> =>
    page.giveFile(() => page.click('[data-testid=part-file]'), name, text)

  it('carry a controller into another rig, as one edit, and say what collides', async () => {
    await page.open('/rig', AS_PERFORMED)
    await give('syzra.json', partOf(AS_PERFORMED))
    await page.says(OFFER, '“Syzra 24” will be called “Syzra 24 2”')
    await page.says(OFFER, 'surface of Syzra 24 is here already')
    await page.click('[data-testid=part-accept]')
    await page.says('main', 'Syzra 24 2')
    await page.press('History')
    await page.counts(STEPS, 1)
    await line('Take in controller Syzra 24')
  })

  it('are taken straight from another rig on the shelf', async () => {
    await page.open('/rig', { ...AS_PERFORMED, name: 'Whole' })
    await page.importFile('without.json', writeRig({ ...WITHOUT, name: 'Without' }))
    await page.reads('[data-testid=rig-menu]', 'Without')
    await page.pick('[data-testid=part-from] button', 'Whole')
    await page.press('Ferric Mile')
    await page.says(OFFER, 'Nothing would be found')
    await page.click('[data-testid=part-accept]')
    await page.says('main', 'Ferric Mile')
  })

  it('come in place of what is there, say what that costs, and are undone in one step; no part is refused', async () => {
    await page.open('/rig', AS_PERFORMED)
    await give('rig.json', writeRig(AS_PERFORMED))
    await page.says('[data-testid=part-failure]', 'format: This is not a part')
    await give('cut.json', '{"format": "deft-lattice/part", "version": 1,')
    await page.says('[data-testid=part-failure]', 'line 1')

    await give('syzra.json', partOf(AS_FOUND))
    await page.pick('[data-testid=part-place] button', 'in place of Syzra 24')
    await page.says('[data-testid=part-costs]', /Teach again\s.*Drift/)
    await page.says(OFFER, 'Then these would be found:')
    await page.click('[data-testid=part-accept]')
    await page.says('[data-testid=findings-count]', /\d+ findings/)
    expect(await page.text('main')).not.toContain('Syzra 24 2')
    await undo()
    await page.hasFindings(0)
  })
})

it('a backup brings a rig back after it was removed for good, and a damaged one changes nothing', async () => {
  const give = (name: string, bytes: Uint8Array): Promise<void> =>
    page.giveFile(() => page.click('[data-testid=backup-open]'), name, bytes)
  await page.open('/history', { ...AS_PERFORMED, name: 'To be lost' })
  await keepVersion('Opening night')
  await page.click('[data-testid=backup-make]')
  const bytes = await page.downloadedBytes('.json.gz')
  await page.says('[data-testid=backup-last]', 'The last backup was made')

  await page.open('/history')
  await give('all.json.gz', bytes)
  await page.says('[data-testid=restore]', 'not here: it would be added')
  await page.click('[data-testid=restore-one]')
  await page.says('[data-testid=restore]', 'restored')
  await page.click('[data-testid=rig-menu]')
  await page.press('To be lost')
  await line('Opening night')

  const broken = bytes.slice()
  broken[600] = (broken[600] ?? 0) ^ 1
  await give('broken.json.gz', broken)
  await page.says('[data-testid=backup-failure]', 'nothing has changed')
})

it('a backup file is written after every change, also after a reload, and says when it is gone', async () => {
  // The file lies in the folder that the browser has for this page: it stands for the one that a player has on a disk.
  const inFolder = (script: string): Promise<unknown> =>
    page.runAsync(
      `const done = arguments[0]
       navigator.storage.getDirectory().then(async (folder) => { ${script} }).then(done, () => done(''))`,
    )
  const written = async (): Promise<string> =>
    String(
      await inFolder(`
        const file = await (await folder.getFileHandle('deft-lattice-backup.json.gz')).getFile()
        return new Response(file.stream().pipeThrough(new DecompressionStream('gzip'))).text()`),
    )
  const isWritten = (name: string): Promise<unknown> =>
    page.waitFor(`${name} in the file`, async () => (await written()).includes(name))
  await page.open('/history', { ...AS_PERFORMED, name: 'Written' })
  // The dialog of the system cannot be driven.
  await page.run(`
    window.showSaveFilePicker = async ({ suggestedName }) =>
      (await navigator.storage.getDirectory()).getFileHandle(suggestedName, { create: true })`)
  await page.click('[data-testid=backup-file-choose]')
  await page.says('[data-testid=backup-file]', 'everything is written to “deft-lattice-backup')
  await rename('Written once')
  await isWritten('Written once')

  await page.go('/history')
  await page.find('[data-testid=backup-file][data-state=writes]')
  await rename('Written twice')
  await isWritten('Written twice')
  expect(JSON.parse(await written())).toMatchObject({ format: 'deft-lattice/backup' })

  // A folder of its name stands in its place.
  await inFolder(`
    await folder.removeEntry('deft-lattice-backup.json.gz')
    await folder.getDirectoryHandle('deft-lattice-backup.json.gz', { create: true })`)
  await rename('Written nowhere')
  await page.says('[data-testid=backup-file] [role=alert]', /could not be written|no longer where/)
  await page.find('[data-testid=backup-file][data-state=failed]')
  await page.click('[data-testid=backup-file-leave]')
  await page.find('[data-testid=backup-file-choose]')
})
