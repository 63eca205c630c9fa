import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readNames } from '../core/midi/names'
import { readProperties } from '../core/midi/properties'
import {
  By,
  idsFrom,
  Key,
  makePending,
  middleOf,
  openPerformed,
  selectControls,
  setField,
  startSession,
  type Session,
} from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
})
afterAll(() => page.quit())

const findings = (): Promise<string> => page.text('[data-testid=findings-count]')
const click = (css: string, how: object = {}) =>
  page.driver.executeScript(
    `document.querySelector(arguments[0]).dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true, ...arguments[1] }))`,
    css,
    how,
  )
const select = (...ids: string[]) => selectControls(page, ids)
const set = (css: string, text: string) => setField(page, css, text)
const lens = (id: 'addresses' | 'destinations') => page.click(`[data-lens=${id}]`)
async function choose(destination: string): Promise<void> {
  await page.click('[data-testid=board] button[aria-label^="Destination"]')
  await page.press(destination)
}
const undo = async (label: string): Promise<void> => {
  await page.click(`button[aria-label^="Undo: ${label}"]`)
}
const tagOf = (id: string): Promise<string> => page.text(`[data-control="${id}"] .tagtext`)

describe('joining one key of a keyboard', () => {
  it('by its name or by striking it, is told as that key, and that it sounds as well', async () => {
    await page.press('Merrod 49')
    await page.click('[data-control="keys"]')
    await page.click('[data-testid=join]')
    const picker = '[data-testid=key-picker]'
    const field = await page.find(`${picker} input`)
    await field.sendKeys('C9', Key.ENTER)
    await expect.poll(() => page.text(`${picker} [role=alert]`)).toMatch(/Type a key from C1 to C5/)
    await field.sendKeys('c#2', Key.ENTER)
    await page.waitFor('the key', async () => (await field.getAttribute('value')) === 'C#2')
    await click(`${picker} [data-key="50"]`)
    await page.waitFor('the other', async () => (await field.getAttribute('value')) === 'D2')
    await (await page.find('[data-testid=join-picker] [role=combobox]')).sendKeys('start', Key.ENTER)
    await page.waitFor('it to be joined', async () =>
      /by D2 alone/.test((await page.text('[data-testid=mapping]')) ?? ''),
    )
    await page.press('Taught it 2:note50')
    await page.waitFor('the advice', async () => (await findings()) === '2 findings')
    await expect.poll(() => page.text('[data-testid=side-panel]')).toContain('heard as the note D2')
    await undo('Siltglass · Source · Start learned')
    await undo('Join Keys D2 to Siltglass')
    await page.waitFor('as before', async () => (await findings()) === 'No findings')
    await page.press('Syzra 24')
  })
})

describe('joining in the lens on destinations', () => {
  it('joins eight faders to eight parameters in one action, first to first', async () => {
    await lens('destinations')
    await expect.poll(() => tagOf('fader-1')).toContain('Volume')
    await select(...idsFrom('fader', 1, 8))
    await set('[data-testid=board-search]', 'pan')
    await page.waitFor('eight', async () => (await page.count('[data-board-item]')) === 8)
    await (await page.find('[data-testid=board-list]')).sendKeys(Key.chord(Key.CONTROL, 'a'))
    await expect.poll(() => page.text('[data-testid=join-now]')).toBe('Join 8')
    await page.click('[data-testid=join-now]')
    await page.find('button[aria-label="Undo: Join 8 controls to Loomwright"]')
    await page.waitFor('the advice', async () => /findings$/.test(await findings()))
    await undo('Join 8 controls')
    await page.waitFor('as before', async () => (await findings()) === 'No findings')
  })

  it('joins the other way round: a parameter, then a control, by keyboard', async () => {
    await set('[data-testid=board-search]', 'tempo')
    const list = await page.find('[data-testid=board-list]')
    await list.sendKeys(Key.HOME)
    await page.driver.executeScript(`document.querySelector('[data-control="enc-6"]').focus()`)
    await page.keys(Key.SPACE)
    await page.waitFor('both ends', async () => (await page.text('[data-testid=join-strip]')).includes('Wow'))
    await list.sendKeys(Key.ENTER)
    await page.find('button[aria-label="Undo: Join to Loomwright"]')
    await page.waitFor('the mapping', async () =>
      (await page.text('aside')).includes('Loomwright · Transport · Tempo'),
    )
  })

  it('drags a parameter onto a control', async () => {
    await set('[data-testid=board-search]', 'record arm')
    const item = await middleOf(page, '[data-board-item="t1-arm"]')
    const at = await middleOf(page, '[data-control="side-2"] .control-part')
    const { driver } = page
    await driver
      .actions({ async: true })
      .move(item)
      .press()
      .move({ x: item.x + 8, y: item.y - 8 })
      .perform()
    await page.find('[data-testid=carried]')
    await driver
      .actions({ async: true })
      .move(at)
      .move({ x: at.x + 1, y: at.y })
      .release()
      .perform()
    await page.waitFor('the tag', async () => (await tagOf('side-2')).includes('Record'))
    await undo('Join to Loomwright')
  })

  it('puts pads on fourteen drum sounds, with the gaps of their notes left free', async () => {
    await page.press('Pelluna')
    await page.find('[data-control="pad-1"]')
    await choose('Kettlow')
    await page.click('[data-list=sounds]')
    await page.waitFor('fourteen', async () => (await page.count('[data-board-item^=note-]')) === 14)
    await (await page.find('[data-testid=board-list]')).sendKeys(Key.chord(Key.CONTROL, 'a'))
    await page.click('[data-testid=keep-gaps]')
    await select(...idsFrom('pad', 1, 27))
    await expect.poll(() => page.text('[data-testid=join-now]')).toBe('Join 14')
    await page.click('[data-testid=join-now]')
    await makePending(page)
    await lens('addresses')
    const tags = async (...ids: number[]) => Promise.all(ids.map((n) => tagOf(`pad-${n}`)))
    await page.waitFor('the pads', async () => (await tagOf('pad-3')).includes('38'))
    expect((await tags(1, 3, 27)).map((tag) => /note(\d+)/.exec(tag)?.[1])).toEqual(['36', '38', '62'])
    await undo('Join')
    await lens('destinations')
  })

  it('gives footswitches the right programs of presets', async () => {
    await page.press('Umbrek')
    await page.find('[data-control="foot-1"]')
    await choose('Ondrel VI')
    await page.click('[data-list=presets]')
    await select('foot-2', 'foot-3')
    await click('[data-board-item="program-0.1-4"]')
    await click('[data-board-item="program-0.1-5"]', { shiftKey: true })
    await page.click('[data-testid=join-now]')
    await makePending(page)
    await lens('addresses')
    await page.waitFor('the program', async () => (await tagOf('foot-2')).includes('4'))
    await expect
      .poll(() =>
        page.driver.executeScript(
          `return document.querySelector('[data-control="foot-2"]').getAttribute('aria-label')`,
        ),
      )
      .toContain('pc0.1.4')
    await undo('Join')
  })
})

describe('how a control moves its parameter', () => {
  it('inverts a pedal, refuses an impossible range at the field, and draws what comes of it', async () => {
    await page.click('[data-control="pedal"]')
    await page.click('[data-testid=mapping-open]')
    await page.click('[data-testid=inverted]')
    await page.waitFor('inverted', async () =>
      (await page.text('[data-testid=mapping]')).includes('inverted,'),
    )
    await page.find('[data-testid=value-chart] canvas')
    await expect
      .poll(() => page.text('[data-testid=mapping-facts]'))
      .toContain('128 values bring it from 0 % to 100 %')
    await set('[data-testid=mapping-max]', '0')
    await page.keys(Key.TAB)
    await expect.poll(() => page.text('[data-testid=mapping-editor] [role=alert]')).toContain('must differ')
    await page.click('[data-drawing=takeover]')
    await page.find('[data-testid=value-chart] canvas')
    await undo('Turn it round')
  })

  it('finds the ranges in which every click is a whole beat a minute', async () => {
    await page.press('Syzra')
    await page.click('[data-control="enc-6"]')
    const open = await page.waitFor('the mapping of tempo', async () => {
      const rows = await page.driver.findElements(By.css('[data-testid=mapping]'))
      for (const row of rows)
        if ((await row.getText()).includes('Tempo'))
          return row.findElement(By.css('[data-testid=mapping-open]'))
      return undefined
    })
    await open?.click()
    await page.click('[data-drawing=steps]')
    await set('[aria-label="Covering from"]', '72')
    await set('[aria-label="Covering to"]', '180')
    await page.waitFor('ranges', async () => (await page.count('[data-range]')) === 3)
    await expect.poll(() => page.text('[data-testid=whole-steps]')).toMatch(/21 ranges, each 128 wide/)
    await expect
      .poll(() => page.text('[data-testid=whole-steps]'))
      .toContain('20 steps of a full sweep change nothing')
    await page.click('[data-range="72 to 200"]')
    await page.waitFor('whole clicks', async () =>
      (await page.text('[data-testid=mapping-facts]')).includes('One click moves it by 1 bpm'),
    )
  })

  it('lets a mapping of a named scope win over one that counts everywhere, and says so', async () => {
    await page.click('[data-control="fader-1"]')
    await page.click('[data-testid=join]')
    await page.find('[data-testid=join-picker]')
    await page.keys('scene length')
    await page.waitFor('one', async () => (await page.count('[data-parameter]')) === 1)
    await page.keys(Key.ENTER)
    await page.waitFor('two', async () => (await page.count('[data-testid=mapping]')) === 2)
    const opens = await page.driver.findElements(By.css('[data-testid=mapping-open]'))
    await opens[1]?.click()
    await (await page.find('select[id^=scope-]')).sendKeys('only in Rings')
    await page.waitFor('the exception', async () =>
      (await page.text('[data-testid=mapping]')).includes('everywhere but in Rings'),
    )
  })
})

describe('a changed number', () => {
  it('says what breaks before it is made, is listed to be taught again, and is clean when ticked off', async () => {
    await openPerformed(page)
    await page.click('[data-control="fader-2"]')
    await set('[data-address-field]', '1:cc28+60')
    await page.keys(Key.ENTER)
    await expect
      .poll(() => page.text('[data-testid=pending]'))
      .toMatch(/One thing would no longer be moved, until it is taught again: Loomwright · Track 2/)
    await page.click('[data-testid=pending-drop]')
    await page.waitFor('as it was', async () => (await tagOf('fader-2')) === '1:cc17+49')
    await set('[data-address-field]', '1:cc29+61')
    await page.keys(Key.ENTER)
    await makePending(page)
    await page.click('[data-testid=teach-open]')
    await page.waitFor('the list', async () =>
      (await page.text('[data-testid=teach-panel]')).includes('Clear 1:cc17+49, then move Dust (Syzra 24).'),
    )
    await page.click('[data-testid=tick]')
    await page.waitFor('nothing left', async () =>
      (await page.text('[data-testid=teach-panel]')).includes('listens to what its controls send'),
    )
    await page.press('Sheets')
    await page.click('[data-sheet=teach]')
    await page.waitFor('the sheet', async () =>
      (await page.text('[data-testid=sheet]')).includes('Everything is taught'),
    )
  })
})

describe('the lists of a destination', () => {
  const paste = (text: string) =>
    page.driver.executeScript(
      `const field = document.querySelector('[data-testid=list-text]')
       field.value = arguments[0]
       field.dispatchEvent(new Event('input', { bubbles: true }))`,
      text,
    )

  it('are opened from the picture, and say what moves each', async () => {
    await page.press('Rig')
    await page.click('[data-card=ondrel-vi] button')
    await page.click('[data-testid=open-lists]')
    await page.waitFor('the count', async () =>
      (await page.text('[data-testid=moved-count]')).includes('of 74'),
    )
    await expect.poll(() => page.text('[data-parameter-row=play-modulation]')).toContain('Mod')
  })

  it('take a table in, name the lines that cannot be read, and refuse a broken one', async () => {
    await page.click('[data-testid=read-open]')
    await paste(
      'Section,Parameter,CC,Min,Max\nShimmer,Size,102,0,100\nShimmer,Tone,300,0,1\n=SUM(A1),Spread,105,0,1',
    )
    await page.waitFor('the bad line', async () =>
      (await page.text('[data-testid=bad-lines]')).startsWith('Line 3'),
    )
    await expect.poll(() => page.text('[data-testid=list-add]')).toBe('Add 2 parameters')
    await paste('a,"b\nc')
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-testid=read-list] [role=alert]')).includes('Line 1'),
    )
    await paste(`<?xml version="1.0"?><!DOCTYPE d [<!ENTITY a "b">]><d/>`)
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-testid=read-list] [role=alert]')).includes('entities'),
    )
    await paste('Section,Parameter,CC\nShimmer,Size,102\nShimmer,Tone,103')
    await page.waitFor('two', async () => (await page.text('[data-testid=list-add]')) === 'Add 2 parameters')
    await page.click('[data-testid=list-add]')
    await page.waitFor('two more', async () =>
      (await page.text('[data-testid=moved-count]')).includes('of 76'),
    )
    await page.find('button[aria-label="Undo: Add 2 parameters to Ondrel VI"]')
  })

  it('refuse a parameter whose ends are one, at its line', async () => {
    const field = '[data-parameter-row=play-modulation] [aria-label=To]'
    await set(field, '0')
    await page.keys(Key.TAB)
    await expect
      .poll(() => page.text('[data-parameter-row=play-modulation] [role=alert]'))
      .toContain('min must be below max')
  })

  it('refuse a bank or a note that is none in a notice, and keep what was', async () => {
    const refused = async (field: string, typed: string, words: string, kept: string): Promise<void> => {
      await set(field, typed)
      await page.keys(Key.TAB)
      await page.waitFor('the notice', async () =>
        (await page.text('[data-sonner-toast][data-front=true]')).includes(words),
      )
      await expect.poll(async () => (await page.find(field)).getAttribute('value')).toBe(kept)
    }
    await page.press('Presets')
    await refused('[aria-label="Bank, two numbers with a point"]', '1.300', '“1.300” is no bank', '0.1')
    await page.press('Sounds')
    await page.press('Add a sound')
    await refused('[aria-label="Note number or name"]', 'H9', '“H9” is no note', '36')
    // A notice is a small card above the page, not a bar across it.
    const { width, x } = await (await page.find('[data-sonner-toast][data-front=true]')).getRect()
    expect(width).toBeLessThan(400)
    expect(x).toBeGreaterThan(400)
    await undo('Add a sound')
    await page.press('Parameters')
  })

  it('go out as lists of MIDI-CI property exchange, and such lists are taken in', async () => {
    await page.click('[data-testid=save-properties]')
    const read = readProperties(await page.downloaded('.midi-ci.json'))
    expect(read.ok && [read.properties.controls.length, read.properties.programs.length]).toEqual([68, 8])
    await page.click('[data-testid=read-open]')
    const list = JSON.stringify([
      { title: 'Haze', ctrlType: 'cc', ctrlIndex: [94] },
      { title: 'Too far', ctrlType: 'cc', ctrlIndex: [194] },
    ])
    await set('[data-testid=list-text]', list)
    await page.waitFor('what it would add', async () =>
      /property exchange: 1 parameters, 0 sounds, 0 presets[\s\S]*“Too far” is left out/.test(
        await page.text('[data-testid=read-list]'),
      ),
    )
    await page.click('[data-testid=list-add]')
    await page.waitFor('one more', async () =>
      (await page.text('[data-testid=moved-count]')).includes('of 77'),
    )
    await undo('Take names over')
  })

  it('are written as a MIDI Name Document that is valid and reads back the same', async () => {
    await page.click('[data-testid=save-names]')
    const text = await page.downloaded('.midnam')
    const read = readNames(text)
    expect(read.ok && [read.names.controls.length, read.names.banks[0]?.patches.length]).toEqual([66, 8])
    const tool = process.env.XMLLINT ?? '/usr/bin/xmllint'
    if (!existsSync(tool))
      throw new Error('Install xmllint (Debian: libxml2-utils) to validate what is written.')
    const folder = mkdtempSync(join(tmpdir(), 'deft-names-'))
    const file = join(folder, 'names.midnam')
    writeFileSync(file, text)
    execFileSync(tool, ['--noout', '--nonet', '--dtdvalid', 'docs/midnam.dtd', file], { stdio: 'pipe' })
    writeFileSync(file, text.replace('<Model>', '<Modell>').replace('</Model>', '</Modell>'))
    expect(() =>
      execFileSync(tool, ['--noout', '--nonet', '--dtdvalid', 'docs/midnam.dtd', file], { stdio: 'pipe' }),
    ).toThrow()
    rmSync(folder, { recursive: true })
  })

  it('logged no error on the way', async () => {
    expect(await page.errors()).toEqual([])
  })
})
