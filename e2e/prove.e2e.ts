import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { perform, writeRig, type Rig } from '../core/rig'
import {
  giveFile,
  importText,
  openPerformed,
  pickOption,
  setField,
  startSession,
  type Session,
} from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
})
afterAll(() => page.quit())

const performed = nineRingsRig('as-performed')
const named = (rig: Rig, name: string): Rig => ({ ...rig, name })

/** Open a rig, and the ways of proving it on the Bench. */
async function prove(rig: Rig, tab: string): Promise<void> {
  await page.go('/desk')
  await page.find('[data-testid=rig-menu]')
  await importText(page, `${rig.name}.json`, writeRig(rig))
  await page.waitFor('the rig', async () => (await page.text('[data-testid=rig-menu]')).includes(rig.name))
  await page.press('Bench')
  await page.find('[data-testid=bench-surface]')
  await page.click('[data-side=prove]')
  await page.click(`[data-prove=${tab}]`)
}
const control = (id: string): string => `[data-testid=bench-surface] [data-control="${id}"]`
async function touch(id: string): Promise<void> {
  const origin = await page.find(control(id))
  await page.driver.actions().move({ origin }).press().pause(50).release().perform()
}
const soon = (what: string, css: string, text: string | RegExp): Promise<boolean> =>
  page.waitFor(`${what}: ${String(text)}`, async () => {
    const now = await page.text(css)
    return typeof text === 'string' ? now.includes(text) : text.test(now)
  })

describe('rehearsing', () => {
  it('proves the demo as performed, and keeps that with the rig', { timeout: 120_000 }, async () => {
    await page.go('/desk')
    await openPerformed(page)
    await page.press('Bench')
    await page.click('[data-side=prove]')
    await page.click('[data-testid=rehearse-now]')
    await soon('the report', '[data-testid=rehearsal-summary]', /^No fault; 193 of 193 mappings proven$/)
    await page.click('[data-testid=rehearse-keep]')
    await soon('it is kept', '[data-testid=rehearsed]', /193 as proven, nothing changed since, 8 not proven/)
    await page.press('Sheets')
    await page.click('[data-sheet="rehearsal"]')
    await soon('the sheet', '[data-testid=sheet]', 'No fault was found')
  })

  it('names what was broken, and leads to it', { timeout: 120_000 }, async () => {
    const mapping = performed.mappings.find(({ gesture }) => gesture === 'syzra/fader-3.slide')!
    const broken = perform(performed, '', [
      {
        type: 'mapping-set',
        mapping: mapping.id,
        set: { learnedAt: { scope: 'channel', channel: 16, target: { kind: 'cc', number: 3 } } },
      },
    ]).rig
    await prove(named(broken, 'One thing broken'), 'rehearse')
    await page.click('[data-testid=rehearse-now]')
    await soon('faults', '[data-testid=rehearsal-summary]', /faults?; 192 of 193 mappings proven$/)
    await soon('the mapping', '[data-testid=rehearse]', /Nothing moves Loomwright · Track 3 Ice · Volume/)
    await page.click('[data-finding=unreached] [data-testid=finding-desk]')
    await page.find('[data-control=fader-3]')
    await expect.poll(() => page.driver.getCurrentUrl()).toMatch(/\/desk$/)
  })

  it('can be stopped while it goes on', async () => {
    await page.press('Bench')
    await page.click('[data-testid=rehearse-now]')
    await page.click('[data-testid=rehearse-stop]')
    await page.find('[data-testid=rehearse-now]')
    await soon('the rig is there', '[data-testid=rig-menu]', 'One thing broken')
  })
})

describe('teaching', () => {
  it(
    'goes through the list to its end, each gesture sent alone, and takes the last one back',
    { timeout: 180_000 },
    async () => {
      const taught = [
        'merrod/xy.x',
        'syzra/knob-2.turn',
        'pelluna/slim-3.press',
        'umbrek/pedal.press',
        'syzra/fader-1.slide',
      ]
      const untaught: Rig = {
        ...performed,
        mappings: performed.mappings.map((mapping) =>
          mapping.gesture !== null && taught.includes(mapping.gesture)
            ? { ...mapping, learnedAt: null }
            : mapping,
        ),
      }
      await prove(named(untaught, 'Not taught yet'), 'teach')
      await soon('the offer', '[data-testid=teach-begin]', /^Begin: \d to teach$/)
      const count = Number(/\d+/.exec(await page.text('[data-testid=teach-begin]'))?.[0])
      expect(count).toBeGreaterThan(4)
      await page.click('[data-testid=teach-begin]')
      for (let line = 0; line < count; line++) {
        await page.click('[data-testid=teach-send]')
        await page.find('[data-testid=teach-next]')
        await expect
          .poll(() => page.text('[data-testid=teach-said]'))
          .toMatch(/ learned [a-z0-9:+]+\. .+(went from|was set off)/)
        await page.click('[data-testid=teach-next]')
      }
      await soon('the end', '[data-testid=teach-over]', `${count} are taught`)
      await page.click('[data-testid=teach-undo]')
      await soon('it comes again', '[data-testid=teach-left]', '1 to go')
    },
  )
})

describe('checking the line', () => {
  it(
    'names a slot that is wrong and ports that are swapped, and keeps what it found',
    { timeout: 120_000 },
    async () => {
      const syzra = performed.controllers.find(({ id }) => id === 'syzra')!
      const other = JSON.stringify({ ...syzra.templates[0]!, id: 'spare', name: 'Spare' }).replaceAll(
        '"channel":6',
        '"channel":13',
      )
      const rig = perform(performed, '', [
        {
          type: 'template-add',
          controller: 'syzra',
          template: JSON.parse(other) as (typeof syzra.templates)[number],
        },
        { type: 'slot-set', controller: 'syzra', number: 4, set: { template: 'spare' } },
      ]).rig
      await prove(named(rig, 'Line'), 'line')
      await page.click('[data-testid=line-start]')
      await soon('the count', '[data-testid=line-count]', /^0 of \d+ touched/)
      await touch('key-1')
      await soon('one is touched', '[data-testid=line-count]', /^1 of/)
      await expect.poll(() => page.count('[data-line=as-written]')).toBe(1)
      await page.click('[data-testid=line-gone]')
      await soon('the rest is gone', '[data-testid=line-missing]', 'No longer there:')
      await expect.poll(() => page.count('[data-line=gone]')).toBeGreaterThan(10)
      await expect.poll(() => page.count('[data-testid=line-take-off]')).toBe(1)
      await page.press('They are there')
      await soon('the rest is not touched yet', '[data-testid=line-left]', 'Not touched yet:')

      await page.click('[data-testid=line-hardware]')
      await pickOption(page, '[data-testid=load-template] button', 'Spare')
      await page.click('[data-testid=line-again]')
      for (const n of [1, 2, 3, 4, 5]) await touch(`key-${n}`)
      await soon(
        'the slot',
        '[data-testid=line-causes]',
        'Another slot is loaded: Syzra 24 sends template “Spare” (slot 4).',
      )

      await pickOption(page, '[data-testid=load-template] button', 'Nine Rings')
      await pickOption(page, '[data-testid=swap-port] button', 'Pelluna 36')
      await page.click('[data-testid=line-again]')
      await page.press('Pelluna 36')
      await page.find(control('pad-1'))
      for (const n of [1, 2, 3, 4]) await touch(`pad-${n}`)
      await page.press('Syzra 24')
      await soon(
        'the ports',
        '[data-testid=line-causes]',
        'Two ports are swapped: what comes from Syzra 24 is sent by Pelluna 36.',
      )
      await page.click('[data-testid=line-keep]')
      await soon('it is kept', '[data-testid=line-kept]', /Checked/)
      await page.press('Sheets')
      await page.click('[data-sheet="line-check syzra"]')
      await soon('the sheet', '[data-testid=sheet]', 'Two ports are swapped')
    },
  )
})

describe('checking the line behind a cable', () => {
  it('expects what its rules let through', { timeout: 60_000 }, async () => {
    await prove(named(performed, 'Behind'), 'line')
    await page.press('Umbrek 6')
    await pickOption(page, '[data-testid=line-behind] button', 'behind Junction')
    await page.click('[data-testid=line-start]')
    await soon('the count', '[data-testid=line-count]', /^0 of \d+ touched/)
    await page.driver.executeScript(`document.querySelector('button[aria-label^="Layer of Rows"]').click()`)
    await page.driver.executeScript(
      `[...document.querySelectorAll('[role=option]')].find((each) => each.textContent.includes('Rings')).click()`,
    )
    await touch('foot-2')
    await soon('the cause', '[data-testid=line-check]', 'Another layer is on: Rows of Umbrek 6 shows Rings.')
  })
})

describe('storing', () => {
  it(
    'fetches before it stores, shows what would change, keeps what was there and brings it back',
    { timeout: 120_000 },
    async () => {
      await prove(named(performed, 'Slots'), 'slots')
      await page.click('[data-slot="3"] [data-testid=fetch]')
      await soon('what it holds', '[data-slot="3"]', 'It holds “As delivered”')
      await pickOption(page, '[data-slot="3"] button', 'Nine Rings')
      await soon('the differences', '[data-slot="3"] [data-testid=holds]', /\d+ differences/)
      await page.click('[data-slot="3"] [data-testid=show-differences]')
      await soon('control by control', '[data-slot="3"] [data-testid=differences]', 'will hold')
      await page.click('[data-slot="3"] [data-testid=store]')
      await soon('it asks', '[data-testid=ask-overwrite]', 'Nobody here knows “As delivered”')
      await page.click('[data-testid=overwrite]')
      await soon('it is stored', '[data-slot="3"] [data-testid=holds]', 'as written')
      await soon('what was there is kept', '[data-slot="3"] [data-testid=kept]', 'As delivered')
      await page.click('[data-slot="3"] [data-testid=bring-back]')
      await soon('the old is back', '[data-slot="3"] [data-testid=holds]', 'It holds “As delivered”')
    },
  )

  it('says what went wrong, and that the slot is as it was', { timeout: 60_000 }, async () => {
    await page.press('The hardware here is simulated')
    await page.click('[data-trouble=stops]')
    await page.click('[data-slot="2"] [data-testid=store]')
    await soon('why', '[data-testid=slot-failure]', /stopped answering after \d+ of \d+ pieces/)
    await page.click('[data-trouble=stops]')
    await page.click('[data-slot="2"] [data-testid=fetch]')
    await soon('it is as it was', '[data-slot="2"] [data-testid=holds]', 'It holds “Nine Rings”, as written.')
  })
})

describe('a recipe', () => {
  it('is written from a manual page, makes a .syx, and reads it back', { timeout: 120_000 }, async () => {
    await page.click('[data-prove=recipes]')
    await page.click('[data-testid=recipe-new]')
    await setField(page, '[data-testid=recipe-name]', 'Template dump')
    await setField(page, '[data-testid=recipe-text]', 'F0 7D {knob} F7')
    await soon('it is refused', '[data-testid=recipe-problems]', 'Word 3: There is no place called “knob”')
    await setField(
      page,
      '[data-testid=recipe-text]',
      'F0 7D 10 {slot} [ {layer} {control} {kind} {channel-1} {number} {low:halves} {high:halves} ] {negated from 3} F7',
    )
    await setField(page, '[data-testid=recipe-kinds]', 'cc 0, note 1, cc14 2')
    await page.click('[data-testid=recipe-done]')
    await soon('its bytes', '[data-testid=recipe-bytes]', 'F0 7D 10 01')
    await page.click('[data-testid=recipe-save]')
    const bytes = await page.downloadedBytes('.syx')
    expect([bytes[0], bytes[1], bytes[2], bytes.at(-1)]).toEqual([0xf0, 0x7d, 0x10, 0xf7])
    const read = (name: string, content: Uint8Array): Promise<void> =>
      giveFile(page, () => page.click('[data-testid=recipe-read]'), name, content)
    await read('template.syx', bytes)
    await soon('it is the same', '[data-testid=recipe-found]', 'They are the same as in the template.')
    const damaged = bytes.map((byte, index) => (index === 9 ? (byte + 1) & 0x7f : byte))
    await read('damaged.syx', damaged)
    await soon(
      'it is refused',
      '[data-testid=recipe-failure]',
      /damaged\.syx”, message 1, byte \d+: .+Nothing was changed/,
    )
  })
})
