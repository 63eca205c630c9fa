import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { perform, writeRig, type Rig } from '../core/rig'
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
    await soon('the first edit', '[data-testid=history-title]', 'Since “Delete Transit”')
    expect(await page.driver.executeScript('return document.activeElement.dataset.history')).toBe('step')
    await page.click('[data-testid=compare-end]')
    await soon('now', '[data-testid=history-title]', 'The rig as it is now')
  })

  it('compares with a file, and says what must come along', { timeout: 90_000 }, async () => {
    await openNamed(without, 'Without')
    await page.press('History')
    await compareFile('whole.json', writeRig({ ...performed, name: 'Whole' }))
    await soon('the title', '[data-testid=history-title]', 'From “Whole” to this rig')
    expect(await page.count('[data-testid=history-surface] [data-marked=gone]')).toBeGreaterThan(0)
    await page.click('[data-group^=destination] ul li:nth-child(2) [data-testid=bring-back]')
    await soon('the offer', '[data-testid=bring-back-offer]', 'Ferric Mile')
    await page.click('[data-testid=accept-offer]')
    await count(STEPS, 1)
    await soon('fewer', '[data-testid=history-summary]', /differ/)
  })

  it('refuses a file that is no rig, and compares on', { timeout: 60_000 }, async () => {
    const before = await page.text('[data-testid=history-summary]')
    await compareFile('broken.json', '{"format": "deft-lattice/rig"')
    await soon('why', '[data-testid=history-failure]', 'cannot be compared')
    expect(await page.text('[data-testid=history-summary]')).toBe(before)
  })
})

async function compareFile(name: string, text: string): Promise<void> {
  await giveFile(page, () => pickOption(page, '[data-testid=compare-other] button', 'A file'), name, text)
}
