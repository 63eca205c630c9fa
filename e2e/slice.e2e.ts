import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readRig } from '../core/rig'
import { By, importText, Key, makePending, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
})
afterAll(() => page.quit())

const findings = async (): Promise<number> =>
  Number(/\d+/.exec(await page.text('[data-testid=findings-count]'))?.[0] ?? 0)
const tagOnSurface = (control: string): Promise<string> => page.text(`[data-control="${control}"] .tagtext`)
const settled = (count: number) =>
  page.waitFor(`${count} findings`, async () => (await findings()) === count || undefined)
const cell = (tag: string): string => `[data-cell="${tag}"]`

describe('from a controller on screen to a printed map', () => {
  let before = 0
  let joined = 0
  let exported = ''

  it('opens on the demo rig as found, with its conflicts', async () => {
    await page.go('/')
    await page.find('[data-testid=surface]')
    await page.waitFor('findings', async () => (await findings()) > 5)
    before = await findings()
    await expect.poll(() => page.text('[data-testid=rig-menu]')).toContain('Nine Rings · as found')
    await expect.poll(() => page.count('[data-testid=lattice] [data-severity=error]')).toBeGreaterThan(2)
  })

  it('lights up the cells of a conflicting knob that is selected', async () => {
    await page.click('[data-control="knob-5"]')
    await expect.poll(() => page.text('[data-testid=selection-name]')).toBe('Drift')
    await page.find(`${cell('1:cc49')}[data-selected][data-severity=error]`)
    await expect.poll(() => page.text('aside')).toContain('second half of Dust')
  })

  it('takes the conflict away from list, lattice and tag when a free address is typed', async () => {
    const field = await page.find('[data-address-field]')
    await field.click()
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '1:cc114', Key.ENTER)
    await expect.poll(() => page.text('[data-testid=pending]')).toContain('Siltglass')
    await makePending(page)
    await page.waitFor(
      'the conflict to go',
      async () => (await page.count('aside [data-rule=pair-broken]')) === 0,
    )
    await expect.poll(() => tagOnSurface('knob-5')).toBe('1:cc114')
    await page.find(`${cell('1:cc114')}[data-selected]`)
    await expect.poll(() => page.count(`${cell('1:cc114')}[data-severity]`)).toBe(0)
    await expect.poll(() => page.count('[data-control="knob-5"][data-severity=error]')).toBe(0)
    await page.find('aside [data-rule=unheard] [data-fix=teach]')
  })

  it('brings it back on undo', async () => {
    await (await page.find('[data-control="knob-5"]')).sendKeys(Key.chord(Key.CONTROL, 'z'))
    await settled(before)
    await expect.poll(() => tagOnSurface('knob-5')).toBe('1:cc49')
    await page.find('aside [data-rule=pair-broken]')
  })

  it('cures it by an offered fix', async () => {
    await page.click('aside [data-rule=pair-broken] [data-fix=move]')
    await makePending(page)
    await page.find('aside [data-rule=unheard] [data-fix=teach]')
    await expect.poll(() => page.count('aside [data-rule=pair-broken]')).toBe(0)
    await expect.poll(() => tagOnSurface('knob-5')).not.toBe('1:cc49')
  })

  it('joins the control to a synth parameter', async () => {
    await page.click('[data-testid=join]')
    await page.find('[data-testid=join-picker]')
    await page.keys('ondrel noise')
    await page.waitFor('the parameter', async () => (await page.count('[data-parameter]')) === 1)
    await page.keys(Key.ENTER)
    await page.waitFor('the mapping', async () =>
      (await page.text('aside')).includes('Ondrel VI · Mixer · Noise'),
    )
    await page.waitFor('what it does not send', async () =>
      (await page.text('aside')).includes('takes only cc27'),
    )
    joined = await findings()
  })

  it('shows the join in the destination map, and exports it as CSV and HTML that read back', async () => {
    await page.press('Sheets')
    await page.click('[data-sheet="map ondrel-vi"]')
    const row = await page.waitFor('the row', () =>
      page.driver.findElement(By.xpath('//tr[td[1]="Mixer · Noise"]')),
    )
    await expect.poll(() => row.getText()).toContain('Drift')
    await expect.poll(() => row.getText()).toContain('cc27')
    await page.click('[data-export=csv]')
    const csv = Papa.parse<string[]>(await page.downloaded('.csv'))
    const line = csv.data.find((cells) => cells[1] === 'Mixer · Noise' && cells[0] === 'What moves it')
    expect(line?.slice(2, 5)).toEqual(['Syzra 24', 'Drift', 'cc27'])
    await page.click('[data-export=html]')
    const html = await page.downloaded('.html')
    expect(html).toContain(
      ['Mixer · Noise', 'Syzra 24', 'Drift', '<code>cc27</code>']
        .map((cell) => `<td dir="auto">${cell}</td>`)
        .join(''),
    )
    await page.click('[data-export=markdown]')
    expect(await page.downloaded('.md')).toContain('| Mixer · Noise | Syzra 24 | Drift | `cc27` |')
  })

  it('has everything as it was after a reload', async () => {
    await page.go('/desk')
    await settled(joined)
    await page.click('[data-control="knob-5"]')
    await page.waitFor('the mapping', async () =>
      (await page.text('aside')).includes('Ondrel VI · Mixer · Noise'),
    )
    await expect.poll(() => tagOnSurface('knob-5')).not.toBe('1:cc49')
    const undo = await page.find('button[aria-label^="Undo: Join to Ondrel VI"]')
    await expect.poll(() => undo.isEnabled()).toBe(true)
  })

  it('exports as JSON, is deleted, and comes back identical by import', async () => {
    await page.click('[data-testid=rig-menu]')
    await page.press('Export')
    exported = await page.downloaded('.json')
    const read = readRig(exported)
    expect(read.ok).toBe(true)
    await page.click('[data-testid=rig-menu]')
    await page.press('Delete')
    await page.waitFor('an empty desk', async () => (await page.text('main')).includes('No rig is open'))
    await importText(page, 'nine-rings.json', exported)
    await page.find('[data-testid=surface]')
    await settled(joined)
    await page.click('[data-testid=rig-menu]')
    const count = await page.driver.executeScript<number>(
      `return document.querySelectorAll('a[download]').length`,
    )
    expect(count).toBe(0)
    const again = await page.driver.executeAsyncScript<string>(`
      const done = arguments[arguments.length - 1]
      const original = URL.createObjectURL
      URL.createObjectURL = (blob) => { void blob.text().then(done); return original.call(URL, blob) }
      ;[...document.querySelectorAll('button')].find((button) => button.textContent.includes('Export')).click()`)
    expect(again).toBe(exported)
  })

  it('refuses a bad file with the place and the reason, and leaves the open rig alone', async () => {
    const bad = exported.replace('"homeChannel": 1,', '"homeChannel": 17,')
    await importText(page, 'bad.json', bad)
    const dialog = await page.waitFor('the dialog', () => page.driver.findElement(By.css('[role=dialog]')))
    const text = await page.waitFor('its text', async () => (await dialog.getText()) || undefined)
    expect(text).toContain('controllers[0].homeChannel')
    expect(text).toContain('16 at most')
    await page.press('Close')
    await settled(joined)
    await importText(page, 'worse.json', '{ "format": ')
    await page.waitFor('the reason', async () =>
      (await page.text('[role=dialog]')).includes('This is not JSON'),
    )
    await page.press('Close')
  })

  it('logged no error on the way', async () => {
    expect(await page.errors()).toEqual([])
  })
})
