import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeEach, describe, expect, it } from 'vitest'
import type { WebElement } from 'selenium-webdriver'
import { readNames } from '../core/midi/names'
import { readProperties } from '../core/midi/properties'
import { idsFrom, Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()

const click = (css: string, how: object = {}): Promise<void> => page.clickBare(css, how)
const select = (...ids: string[]): Promise<void> => page.select(...ids)
const set = (css: string, text: string) => page.type(css, text)
const lens = (id: 'addresses' | 'destinations') => page.click(`[data-lens=${id}]`)
async function choose(destination: string): Promise<void> {
  await page.click('[data-testid=board] button[aria-label^="Destination"]')
  await page.press(destination)
}
const undo = (label: string): Promise<void> => page.undo(label)
const tagOf = (id: string): Promise<string> => page.tagOf(id)
const openDesk = (): Promise<void> => page.open('/desk', AS_PERFORMED)

describe('joining one key of a keyboard', () => {
  it('by its name or by striking it, is told as that key, and that it sounds as well', async () => {
    await openDesk()
    await page.press('Merrod 49')
    await page.click('[data-control="keys"]')
    await page.click('[data-testid=join]')
    const picker = '[data-testid=key-picker]'
    const field = await page.find(`${picker} input`)
    await field.sendKeys('C9', Key.ENTER)
    await page.says(`${picker} [role=alert]`, /Type a key from C1 to C5/)
    await field.sendKeys('c#2', Key.ENTER)
    await page.waitFor('the key', async () => (await field.getAttribute('value')) === 'C#2')
    await click(`${picker} [data-key="50"]`)
    await page.waitFor('the other', async () => (await field.getAttribute('value')) === 'D2')
    await (await page.find('[data-testid=join-picker] [role=combobox]')).sendKeys('start', Key.ENTER)
    await page.waitFor('it to be joined', async () =>
      /by D2 alone/.test((await page.text('[data-testid=mapping]')) ?? ''),
    )
    await page.press('Taught it 2:note50')
    await page.hasFindings(2)
    await page.says('[data-testid=side-panel]', 'heard as the note D2')
    await undo('Siltglass · Source · Start learned')
    await undo('Join Keys D2 to Siltglass')
    await page.hasFindings(0)
  })
})

describe('joining in the lens on destinations', () => {
  beforeEach(async () => {
    await openDesk()
    await lens('destinations')
  })

  it('joins eight faders to eight parameters in one action, first to first', async () => {
    await expect.poll(() => tagOf('fader-1')).toContain('Volume')
    await select(...idsFrom('fader', 1, 8))
    await set('[data-testid=board-search]', 'pan')
    await page.counts('[data-board-item]', 8)
    await (await page.find('[data-testid=board-list]')).sendKeys(Key.chord(Key.CONTROL, 'a'))
    await page.reads('[data-testid=join-now]', 'Join 8')
    await page.click('[data-testid=join-now]')
    await page.canUndo('Join 8 controls to Loomwright')
    await page.waitFor('the advice', () => page.findings())
    await undo('Join 8 controls')
    await page.hasFindings(0)
  })

  it('joins the other way round: a parameter, then a control, by keyboard', async () => {
    await set('[data-testid=board-search]', 'tempo')
    const list = await page.find('[data-testid=board-list]')
    await list.sendKeys(Key.HOME)
    await page.focus('[data-control="enc-6"]')
    await page.keys(Key.SPACE)
    await page.says('[data-testid=join-strip]', 'Wow')
    await list.sendKeys(Key.ENTER)
    await page.canUndo('Join to Loomwright')
    await page.says('aside', 'Loomwright · Transport · Tempo')
  })

  it('drags a parameter onto a control', async () => {
    await set('[data-testid=board-search]', 'record arm')
    const item = await page.middleOf('[data-board-item="t1-arm"]')
    const at = await page.middleOf('[data-control="side-2"] .control-part')
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
    await page.counts('[data-board-item^=note-]', 14)
    await (await page.find('[data-testid=board-list]')).sendKeys(Key.chord(Key.CONTROL, 'a'))
    await page.click('[data-testid=keep-gaps]')
    await select(...idsFrom('pad', 1, 27))
    await page.reads('[data-testid=join-now]', 'Join 14')
    await page.click('[data-testid=join-now]')
    await page.makePending()
    await lens('addresses')
    const tags = async (...ids: number[]) => Promise.all(ids.map((n) => tagOf(`pad-${n}`)))
    await page.waitFor('the pads', async () => (await tagOf('pad-3')).includes('38'))
    expect((await tags(1, 3, 27)).map((tag) => /note(\d+)/.exec(tag)?.[1])).toEqual(['36', '38', '62'])
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
    await page.makePending()
    await lens('addresses')
    await page.waitFor('the program', async () => (await tagOf('foot-2')).includes('4'))
    await expect.poll(() => page.attribute('[data-control="foot-2"]', 'aria-label')).toContain('pc0.1.4')
  })
})

describe('how a control moves its parameter', () => {
  beforeEach(openDesk)
  /** Join a control to the first of so many parameters that are found by these words. */
  async function join(control: string, words: string, found = 1): Promise<void> {
    await page.click(`[data-control="${control}"]`)
    await page.click('[data-testid=join]')
    await page.focused('[data-testid=join-picker] [role=combobox]')
    await page.keys(words)
    await page.counts('[data-parameter]', found)
    await page.keys(Key.ENTER)
    await page.counts('[data-testid=join-picker]', 0)
  }

  it('inverts a pedal, refuses an impossible range at the field, and draws what comes of it', async () => {
    await page.press('Umbrek')
    await page.click('[data-control="pedal"]')
    await page.click('[data-testid=mapping-open]')
    await page.click('[data-testid=inverted]')
    await page.says('[data-testid=mapping]', 'inverted,')
    await page.find('[data-testid=value-chart] canvas')
    await page.says('[data-testid=mapping-facts]', '128 values bring it from 0 % to 100 %')
    await set('[data-testid=mapping-max]', '0')
    await page.keys(Key.TAB)
    await page.says('[data-testid=mapping-editor] [role=alert]', 'must differ')
    await page.click('[data-drawing=takeover]')
    await page.find('[data-testid=value-chart] canvas')
    await undo('Turn it round')
  })

  it('finds the ranges in which every click is a whole beat a minute', async () => {
    await join('enc-6', 'loomwright transport tempo', 2)
    const opens = await page.run<WebElement>(
      `return [...document.querySelectorAll('[data-testid=mapping]')]
         .find((row) => row.textContent.includes('Tempo')).querySelector('[data-testid=mapping-open]')`,
    )
    await opens.click()
    await page.click('[data-drawing=steps]')
    await set('[aria-label="Covering from"]', '72')
    await set('[aria-label="Covering to"]', '180')
    await page.counts('[data-range]', 3)
    await page.says('[data-testid=whole-steps]', /21 ranges, each 128 wide/)
    await page.says('[data-testid=whole-steps]', '20 steps of a full sweep change nothing')
    await page.click('[data-range="72 to 200"]')
    await page.says('[data-testid=mapping-facts]', 'One click moves it by 1 bpm')
  })

  it('lets a mapping of a named scope win over one that counts everywhere, and says so', async () => {
    await join('fader-1', 'scene length')
    await page.counts('[data-testid=mapping]', 2)
    await page.click('li:nth-of-type(2) [data-testid=mapping-open]')
    await (await page.find('select[id^=scope-]')).sendKeys('only in Rings')
    await page.says('[data-testid=mapping]', 'everywhere but in Rings')
  })
})

describe('a changed number', () => {
  it('says what breaks before it is made, is listed to be taught again, and is clean when ticked off', async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.click('[data-control="fader-2"]')
    await set('[data-address-field]', '1:cc28+60')
    await page.keys(Key.ENTER)
    await page.says(
      '[data-testid=pending]',
      /One thing would no longer be moved, until it is taught again: Loomwright · Track 2/,
    )
    await page.click('[data-testid=pending-drop]')
    await page.waitFor('as it was', async () => (await tagOf('fader-2')) === '1:cc17+49')
    await set('[data-address-field]', '1:cc29+61')
    await page.keys(Key.ENTER)
    await page.makePending()
    await page.click('[data-testid=teach-open]')
    await page.says('[data-testid=teach-panel]', 'Clear 1:cc17+49, then move Dust (Syzra 24).')
    await page.click('[data-testid=tick]')
    await page.says('[data-testid=teach-panel]', 'listens to what its controls send')
    await page.press('Sheets')
    await page.click('[data-sheet=teach]')
    await page.says('[data-testid=sheet]', 'Everything is taught')
  })
})

describe('the lists of a destination', () => {
  beforeEach(async () => {
    await page.open('/rig', AS_PERFORMED)
    await page.click('[data-card=ondrel-vi] button')
    await page.click('[data-testid=open-lists]')
    await page.find('[data-testid=moved-count]')
  })
  const paste = async (text: string): Promise<void> => {
    await page.find('[data-testid=list-text]')
    await page.run(
      `const field = document.querySelector('[data-testid=list-text]')
       field.value = arguments[0]
       field.dispatchEvent(new Event('input', { bubbles: true }))`,
      text,
    )
  }

  it('are opened from the picture, and say what moves each', async () => {
    await page.says('[data-testid=moved-count]', 'of 74')
    await page.says('[data-parameter-row=play-modulation]', 'Mod')
  })

  it('take a table in, name the lines that cannot be read, and refuse a broken one', async () => {
    await page.click('[data-testid=read-open]')
    await paste(
      'Section,Parameter,CC,Min,Max\nShimmer,Size,102,0,100\nShimmer,Tone,300,0,1\n=SUM(A1),Spread,105,0,1',
    )
    await page.waitFor('the bad line', async () =>
      (await page.text('[data-testid=bad-lines]')).startsWith('Line 3'),
    )
    await page.reads('[data-testid=list-add]', 'Add 2 parameters')
    await paste('a,"b\nc')
    await page.says('[data-testid=read-list] [role=alert]', 'Line 1')
    await paste(`<?xml version="1.0"?><!DOCTYPE d [<!ENTITY a "b">]><d/>`)
    await page.says('[data-testid=read-list] [role=alert]', 'entities')
    await paste('Section,Parameter,CC\nShimmer,Size,102\nShimmer,Tone,103')
    await page.reads('[data-testid=list-add]', 'Add 2 parameters')
    await page.click('[data-testid=list-add]')
    await page.says('[data-testid=moved-count]', 'of 76')
    await page.canUndo('Add 2 parameters to Ondrel VI')
  })

  it('refuse a parameter whose ends are one, at its line', async () => {
    const field = '[data-parameter-row=play-modulation] [aria-label=To]'
    await set(field, '0')
    await page.keys(Key.TAB)
    await page.says('[data-parameter-row=play-modulation] [role=alert]', 'min must be below max')
  })

  it('refuse a bank or a note that is none in a notice, and keep what was', async () => {
    const refused = async (field: string, typed: string, words: string, kept: string): Promise<void> => {
      await set(field, typed)
      await page.keys(Key.TAB)
      await page.waitFor('the notice', async () =>
        (await page.text('[data-sonner-toast][data-front=true]')).includes(words),
      )
      await expect.poll(() => page.value(field)).toBe(kept)
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
    expect(read.ok && [read.properties.controls.length, read.properties.programs.length]).toEqual([66, 8])
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
    await page.says('[data-testid=moved-count]', 'of 75')
    await undo('Take names over')
  })

  it('are written as a MIDI Name Document that is valid and reads back the same', async () => {
    await page.click('[data-testid=save-names]')
    const text = await page.downloaded('.midnam')
    const read = readNames(text)
    expect(read.ok && [read.names.controls.length, read.names.banks[0]?.patches.length]).toEqual([64, 8])
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
})
