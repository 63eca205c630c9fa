import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { readRig } from '../core/rig'
import { By, Key, usePage } from './support/page'

const page = usePage()

const cell = (tag: string): string => `[data-cell="${tag}"]`

describe('from a controller on screen to a printed map', () => {
  let before = 0
  let joined = 0
  let exported = ''

  it('finds a conflict, cures it, joins, prints, survives a reload and a round trip as a file', async () => {
    await page.step('opens on the demo rig as found, with its conflicts', async () => {
      await page.open('/')
      await page.find('[data-testid=surface]')
      before = await page.firstFindings()
      expect(before).toBeGreaterThan(5)
      await page.says('[data-testid=rig-menu]', 'Nine Rings · as found')
      await expect.poll(() => page.count('[data-testid=lattice] [data-severity=error]')).toBeGreaterThan(2)
    })
    await page.step('lights up the cells of a conflicting knob that is selected', async () => {
      await page.click('[data-control="knob-5"]')
      await page.reads('[data-testid=selection-name]', 'Drift')
      await page.find(`${cell('1:cc49')}[data-selected][data-severity=error]`)
      await page.says('aside', 'second half of Dust')
    })
    await page.step(
      'takes the conflict away from list, lattice and tag when a free address is typed',
      async () => {
        await page.type('[data-address-field]', '1:cc114', Key.ENTER)
        await page.says('[data-testid=pending]', 'Siltglass')
        await page.makePending()
        await page.counts('aside [data-rule=pair-broken]', 0)
        await expect.poll(() => page.tagOf('knob-5')).toBe('1:cc114')
        await page.find(`${cell('1:cc114')}[data-selected]`)
        await page.counts(`${cell('1:cc114')}[data-severity]`, 0)
        await page.counts('[data-control="knob-5"][data-severity=error]', 0)
        await page.find('aside [data-rule=unheard] [data-fix=teach]')
      },
    )
    await page.step('brings it back on undo', async () => {
      await (await page.find('[data-control="knob-5"]')).sendKeys(Key.chord(Key.CONTROL, 'z'))
      await page.hasFindings(before)
      await expect.poll(() => page.tagOf('knob-5')).toBe('1:cc49')
      await page.find('aside [data-rule=pair-broken]')
    })
    await page.step('cures it by an offered fix', async () => {
      await page.click('aside [data-rule=pair-broken] [data-fix=move]')
      await page.makePending()
      await page.find('aside [data-rule=unheard] [data-fix=teach]')
      await page.counts('aside [data-rule=pair-broken]', 0)
      await expect.poll(() => page.tagOf('knob-5')).not.toBe('1:cc49')
    })
    await page.step('joins the control to a synth parameter', async () => {
      await page.click('[data-testid=join]')
      await page.find('[data-testid=join-picker]')
      await page.keys('ondrel noise')
      await page.counts('[data-parameter]', 1)
      await page.keys(Key.ENTER)
      await page.says('aside', 'Ondrel VI · Mixer · Noise')
      await page.says('aside', 'takes only cc27')
      joined = await page.findings()
    })
    await page.step(
      'shows the join in the destination map, and exports it as CSV and HTML that read back',
      async () => {
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
      },
    )
    await page.step('has everything as it was after a reload', async () => {
      await page.go('/desk')
      await page.hasFindings(joined)
      await page.click('[data-control="knob-5"]')
      await page.says('aside', 'Ondrel VI · Mixer · Noise')
      await expect.poll(() => page.tagOf('knob-5')).not.toBe('1:cc49')
      await page.canUndo('Join to Ondrel VI')
    })
    await page.step('exports as JSON, is deleted, and comes back identical by import', async () => {
      exported = await page.exported()
      const read = readRig(exported)
      expect(read.ok).toBe(true)
      await page.click('[data-testid=rig-menu]')
      await page.press('Delete')
      await page.says('main', 'No rig is open')
      await page.importFile('nine-rings.json', exported)
      await page.find('[data-testid=surface]')
      await page.hasFindings(joined)
      expect(await page.exported()).toBe(exported)
    })
    await page.step(
      'refuses a bad file with the place and the reason, and leaves the open rig alone',
      async () => {
        const bad = exported.replace('"homeChannel": 1,', '"homeChannel": 17,')
        await page.importFile('bad.json', bad)
        await page.says('[role=dialog]', 'controllers[0].homeChannel')
        await page.says('[role=dialog]', '16 at most')
        await page.press('Close')
        await page.hasFindings(joined)
        await page.importFile('worse.json', '{ "format": ')
        await page.says('[role=dialog]', 'This is not JSON')
        await page.press('Close')
      },
    )
  })
})
