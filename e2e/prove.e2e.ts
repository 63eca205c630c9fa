import { describe, expect, it } from 'vitest'
import { perform, type Rig } from '../core/rig'
import { control, SURFACE, touch as touchOn } from './support/bench'
import { usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()

/** Open a rig, and the ways of proving it on the Bench. */
async function prove(rig: Rig, tab: string): Promise<void> {
  await page.open('/bench', rig)
  await page.find(SURFACE)
  await page.click('[data-side=prove]')
  await page.click(`[data-prove=${tab}]`)
}
const touch = (id: string): Promise<void> => touchOn(page, id)

describe('rehearsing', () => {
  it('proves the demo as AS_PERFORMED, and keeps that with the rig', async () => {
    await prove(AS_PERFORMED, 'rehearse')
    await page.click('[data-testid=rehearse-now]')
    await page.says('[data-testid=rehearsal-summary]', /^No fault; 193 of 193 mappings proven$/)
    await page.click('[data-testid=rehearse-keep]')
    await page.says('[data-testid=rehearsed]', /193 as proven, nothing changed since, 8 not proven/)
    await page.press('Sheets')
    await page.click('[data-sheet="rehearsal"]')
    await page.says('[data-testid=sheet]', 'No fault was found')
  })

  it('names what was broken, and leads to it', async () => {
    const mapping = AS_PERFORMED.mappings.find(({ gesture }) => gesture === 'syzra/fader-3.slide')!
    const broken = perform(AS_PERFORMED, '', [
      {
        type: 'mapping-set',
        mapping: mapping.id,
        set: { learnedAt: { scope: 'channel', channel: 16, target: { kind: 'cc', number: 3 } } },
      },
    ]).rig
    await prove(broken, 'rehearse')
    await page.click('[data-testid=rehearse-now]')
    await page.says('[data-testid=rehearsal-summary]', /faults?; 192 of 193 mappings proven$/)
    await page.says('[data-testid=rehearse]', /Nothing moves Loomwright · Track 3 Ice · Volume/)
    await page.click('[data-finding=unreached] [data-testid=finding-desk]')
    await page.find('[data-control=fader-3]')
    await expect.poll(() => page.driver.getCurrentUrl()).toMatch(/\/desk$/)
  })

  it('can be stopped while it goes on', async () => {
    await prove(AS_PERFORMED, 'rehearse')
    await page.click('[data-testid=rehearse-now]')
    await page.click('[data-testid=rehearse-stop]')
    await page.find('[data-testid=rehearse-now]')
    await page.counts('[data-testid=rehearsal-summary]', 0)
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
        ...AS_PERFORMED,
        mappings: AS_PERFORMED.mappings.map((mapping) =>
          mapping.gesture !== null && taught.includes(mapping.gesture)
            ? { ...mapping, learnedAt: null }
            : mapping,
        ),
      }
      await prove(untaught, 'teach')
      await page.says('[data-testid=teach-begin]', /^Begin: \d to teach$/)
      const count = Number(/\d+/.exec(await page.text('[data-testid=teach-begin]'))?.[0])
      expect(count).toBeGreaterThan(4)
      await page.click('[data-testid=teach-begin]')
      for (let line = 0; line < count; line++) {
        await page.click('[data-testid=teach-send]')
        await page.find('[data-testid=teach-next]')
        await page.says('[data-testid=teach-said]', / learned [a-z0-9:+]+\. .+(went from|was set off)/)
        await page.click('[data-testid=teach-next]')
      }
      await page.says('[data-testid=teach-over]', `${count} are taught`)
      await page.click('[data-testid=teach-undo]')
      await page.says('[data-testid=teach-left]', '1 to go')
    },
  )
})

describe('checking the line', () => {
  it(
    'names a slot that is wrong and ports that are swapped, and keeps what it found',
    { timeout: 120_000 },
    async () => {
      const syzra = AS_PERFORMED.controllers.find(({ id }) => id === 'syzra')!
      const other = JSON.stringify({ ...syzra.templates[0]!, id: 'spare', name: 'Spare' }).replaceAll(
        '"channel":6',
        '"channel":13',
      )
      const rig = perform(AS_PERFORMED, '', [
        {
          type: 'template-add',
          controller: 'syzra',
          template: JSON.parse(other) as (typeof syzra.templates)[number],
        },
        { type: 'slot-set', controller: 'syzra', number: 4, set: { template: 'spare' } },
      ]).rig
      await prove(rig, 'line')
      await page.click('[data-testid=line-start]')
      await page.says('[data-testid=line-count]', /^0 of \d+ touched/)
      await touch('key-1')
      await page.says('[data-testid=line-count]', /^1 of/)
      await page.counts('[data-line=as-written]', 1)
      await page.click('[data-testid=line-gone]')
      await page.says('[data-testid=line-missing]', 'No longer there:')
      await expect.poll(() => page.count('[data-line=gone]')).toBeGreaterThan(10)
      await page.counts('[data-testid=line-take-off]', 1)
      await page.press('They are there')
      await page.says('[data-testid=line-left]', 'Not touched yet:')

      await page.click('[data-testid=line-hardware]')
      await page.pick('[data-testid=load-template] button', 'Spare')
      await page.click('[data-testid=line-again]')
      for (const n of [1, 2, 3, 4, 5]) await touch(`key-${n}`)
      await page.says(
        '[data-testid=line-causes]',
        'Another slot is loaded: Syzra 24 sends template “Spare” (slot 4).',
      )

      await page.pick('[data-testid=load-template] button', 'Nine Rings')
      await page.pick('[data-testid=swap-port] button', 'Pelluna 36')
      await page.click('[data-testid=line-again]')
      await page.press('Pelluna 36')
      await page.find(control('pad-1'))
      for (const n of [1, 2, 3, 4]) await touch(`pad-${n}`)
      await page.press('Syzra 24')
      await page.says(
        '[data-testid=line-causes]',
        'Two ports are swapped: what comes from Syzra 24 is sent by Pelluna 36.',
      )
      await page.click('[data-testid=line-keep]')
      await page.says('[data-testid=line-kept]', /Checked/)
      await page.press('Sheets')
      await page.click('[data-sheet="line-check syzra"]')
      await page.says('[data-testid=sheet]', 'Two ports are swapped')
    },
  )
})

describe('checking the line behind a cable', () => {
  it('expects what its rules let through', async () => {
    await prove(AS_PERFORMED, 'line')
    await page.press('Umbrek 6')
    await page.pick('[data-testid=line-behind] button', 'behind Junction')
    await page.click('[data-testid=line-start]')
    await page.says('[data-testid=line-count]', /^0 of \d+ touched/)
    await page.run(`document.querySelector('button[aria-label^="Layer of Rows"]').click()`)
    await page.run(
      `[...document.querySelectorAll('[role=option]')].find((each) => each.textContent.includes('Rings')).click()`,
    )
    await touch('foot-2')
    await page.says('[data-testid=line-check]', 'Another layer is on: Rows of Umbrek 6 shows Rings.')
  })
})

describe('storing', () => {
  it(
    'fetches before it stores, shows what would change, keeps what was there and brings it back',
    { timeout: 120_000 },
    async () => {
      await prove(AS_PERFORMED, 'slots')
      await page.click('[data-slot="3"] [data-testid=fetch]')
      await page.says('[data-slot="3"]', 'It holds “As delivered”')
      await page.pick('[data-slot="3"] button', 'Nine Rings')
      await page.says('[data-slot="3"] [data-testid=holds]', /\d+ differences/)
      await page.click('[data-slot="3"] [data-testid=show-differences]')
      await page.says('[data-slot="3"] [data-testid=differences]', 'will hold')
      await page.click('[data-slot="3"] [data-testid=store]')
      await page.says('[data-testid=ask-overwrite]', 'Nobody here knows “As delivered”')
      await page.click('[data-testid=overwrite]')
      await page.says('[data-slot="3"] [data-testid=holds]', 'as written')
      await page.says('[data-slot="3"] [data-testid=kept]', 'As delivered')
      await page.click('[data-slot="3"] [data-testid=bring-back]')
      await page.says('[data-slot="3"] [data-testid=holds]', 'It holds “As delivered”')
    },
  )

  it('says what went wrong, and that the slot is as it was', async () => {
    await prove(AS_PERFORMED, 'slots')
    await page.press('The hardware here is simulated')
    await page.click('[data-trouble=stops]')
    await page.click('[data-slot="2"] [data-testid=store]')
    await page.says('[data-testid=slot-failure]', /stopped answering after \d+ of \d+ pieces/)
    await page.click('[data-trouble=stops]')
    await page.click('[data-slot="2"] [data-testid=fetch]')
    await page.says('[data-slot="2"] [data-testid=holds]', 'It holds “Nine Rings”, as written.')
  })
})

describe('a recipe', () => {
  it('is written from a manual page, makes a .syx, and reads it back', async () => {
    await prove(AS_PERFORMED, 'recipes')
    await page.click('[data-testid=recipe-new]')
    await page.type('[data-testid=recipe-name]', 'Template dump')
    await page.type('[data-testid=recipe-text]', 'F0 7D {knob} F7')
    await page.says('[data-testid=recipe-problems]', 'Word 3: There is no place called “knob”')
    await page.type(
      '[data-testid=recipe-text]',
      'F0 7D 10 {slot} [ {layer} {control} {kind} {channel-1} {number} {low:halves} {high:halves} ] {negated from 3} F7',
    )
    await page.type('[data-testid=recipe-kinds]', 'cc 0, note 1, cc14 2')
    await page.click('[data-testid=recipe-done]')
    await page.says('[data-testid=recipe-bytes]', 'F0 7D 10 01')
    await page.click('[data-testid=recipe-save]')
    const bytes = await page.downloadedBytes('.syx')
    expect([bytes[0], bytes[1], bytes[2], bytes.at(-1)]).toEqual([0xf0, 0x7d, 0x10, 0xf7])
    const read = (name: string, content: Uint8Array): Promise<void> =>
      page.giveFile(() => page.click('[data-testid=recipe-read]'), name, content)
    await read('template.syx', bytes)
    await page.says('[data-testid=recipe-found]', 'They are the same as in the template.')
    const damaged = bytes.map((byte, index) => (index === 9 ? (byte + 1) & 0x7f : byte))
    await read('damaged.syx', damaged)
    await page.says(
      '[data-testid=recipe-failure]',
      /damaged\.syx”, message 1, byte \d+: .+Nothing was changed/,
    )
  })
})
