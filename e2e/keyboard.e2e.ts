import { beforeEach, describe, expect, it } from 'vitest'
import { Key, usePage } from './support/page'

const page = usePage()
beforeEach(async () => {
  await page.open('/desk')
  await page.find('[data-testid=lattice]')
})

const selected = (wanted: string): Promise<void> => page.reads('[data-testid=selection-name]', wanted)
const replace = (text: string): Promise<void> => page.keys(Key.chord(Key.CONTROL, 'a'), text, Key.ENTER)

/** What is held back has the focus: Enter goes on. */
async function goOn(): Promise<void> {
  await page.focused('[data-testid=pending-make]')
  await page.keys(Key.ENTER)
}

describe('by keyboard alone', () => {
  it('walks the surface, edits an address, comes back, undoes and does it again', async () => {
    await page.focus('[data-control="enc-1"]')
    for (const [key, name] of [
      [Key.ARROW_RIGHT, 'Start'],
      [Key.ARROW_DOWN, 'Spray'],
      [Key.END, 'Blend'],
      [Key.HOME, 'Grain'],
    ] as const) {
      await page.keys(key)
      await selected(name)
    }
    await page.keys(Key.ENTER)
    await page.focused('[data-address-field]')
    await replace('1:cc90')
    await goOn()
    await page.focused('[data-address-field]')
    await page.hasTag('knob-1', '1:cc90')
    await page.keys(Key.ESCAPE)
    await page.focused('[data-control="knob-1"]')
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await page.hasTag('knob-1', '1:cc110')
    await page.keys(Key.chord(Key.CONTROL, Key.SHIFT, 'z'))
    await page.hasTag('knob-1', '1:cc90')
  })

  it('walks the lattice as one stop: next in use, next free, next finding, one channel large', async () => {
    await page.firstFindings()
    await page.focus('[data-testid=lattice]')
    const tag = async (): Promise<string> => (await page.text('[data-testid=readout]')).split('\n')[0] ?? ''
    await page.keys(Key.chord(Key.CONTROL, Key.ARROW_RIGHT))
    const first = await tag()
    await page.keys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT))
    await page.says('[data-testid=readout]', 'free')
    await expect.poll(tag).not.toBe(first)
    await page.keys(Key.chord(Key.CONTROL, Key.ARROW_LEFT), Key.ENTER)
    await page.find('[data-testid=lattice] [data-selected]')
    await page.keys(Key.PAGE_DOWN)
    await selected('Rings')
    await page.keys(Key.PAGE_DOWN)
    await expect.poll(() => page.text('[data-testid=selection-name]')).not.toBe('Rings')
    await page.keys(Key.PAGE_UP)
    await selected('Rings')

    await page.focus('[data-testid=lattice]')
    await page.keys('z')
    await page.focus('[data-testid=lattice-large] [data-number="16"]')
    await page.keys(Key.ARROW_RIGHT, Key.ARROW_DOWN)
    await page.focused('[data-number="33"]')
    await page.keys(Key.ESCAPE)
    await page.find('[data-testid=lattice]')
  })

  it('changes words of the sentence, and is refused at the field where a number cannot be', async () => {
    await page.focus('[data-control="fader-3"]')
    await page.keys(Key.SPACE)
    await selected('Ice')
    await page.focus('[data-word=channel]')
    await page.keys(Key.ENTER)
    await page.find('[role=listbox]')
    await page.keys('channel 8', Key.ENTER)
    await goOn()
    await page.says('[data-control="fader-3"] .tagtext', /^8:/)
    await page.focus('[data-word=number]')
    await page.keys(Key.ENTER)
    await page.find('input[data-word=number]')
    await page.keys('32', Key.ENTER)
    await page.says('[role=alert]', '32 is out of range: 1 to 31')
    await replace('6')
    await page.says('[role=alert]', 'cannot start a 14-bit pair')
    await replace('24')
    await page.hasTag('fader-3', '8:cc24+56')
    await page.type('[data-address-field]', '8:cc200', Key.ENTER)
    await page.says('[role=alert]', 'CC 200 is out of range: use 0 to 127')
    await page.hasTag('fader-3', '8:cc24+56')
    await page.keys(Key.ESCAPE)
    await expect.poll(() => page.value('[data-address-field]')).toBe('8:cc24+56')
  })
})

describe('the lattice', () => {
  it('lists parameters, programs, and every destination at once', async () => {
    await page.click('[data-control="enc-1"]')
    await page.click('[data-family=parameter]')
    await page.says('[data-testid=parameters]', '1:nrpn640')
    await page.click('[data-family=program]')
    await page.find('[data-testid=lattice][data-shows=program]')
    await page.click('[data-family=cc]')
    await page.find('[data-testid=lattice][data-shows=cc]')
    const used = async (): Promise<number> =>
      Number(/(\d+) numbers used/.exec(await page.text('[data-testid=readout]'))?.[1])
    const before = await used()
    await page.press('what reaches')
    await page.press('every destination')
    await page.waitFor('more numbers', async () => (await used()) > before)
    await page.press('what reaches')
    await page.press('Loomwright')
    await page.waitFor('as before', async () => (await used()) === before)
  })
})

describe('the sentence, from one control to the next', () => {
  it('keeps its fields open, and takes nothing half typed along', async () => {
    await page.click('[data-control="fader-4"]')
    await page.press('As fields')
    await page.find('#field-number')
    const [before, next] = [await page.tagOf('fader-4'), await page.tagOf('fader-5')]
    await page.type('[data-address-field]', 'what')
    await page.type('#field-number', '99')
    await page.click('[data-control="fader-5"]')
    const number = next.slice(next.indexOf(':') + 1)
    await page.waitFor('the next one', async () =>
      (await page.value('[data-address-field]')).endsWith(number),
    )
    await page.counts('#field-number', 1)
    await page.counts('[data-testid=selection-name] ~ * [role=alert]', 0)
    await page.hasTag('fader-4', before)
    await page.hasTag('fader-5', next)
  })
})
