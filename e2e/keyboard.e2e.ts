import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { By, Key, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=findings-count]')
  await page.find('[data-testid=lattice]')
})
afterAll(() => page.quit())

const name = (): Promise<string> => page.text('[data-testid=selection-name]')
const selected = (wanted: string) =>
  page.waitFor(`${wanted} selected`, async () => (await name()) === wanted || undefined)
const focus = (css: string) => page.driver.executeScript(`document.querySelector(arguments[0]).focus()`, css)
const active = (script: string): Promise<unknown> =>
  page.driver.executeScript(`return document.activeElement.${script}`)

/** What is held back has the focus: Enter goes on. */
async function goOn(): Promise<void> {
  await page.waitFor(
    'the question',
    async () => (await active(`dataset.testid === 'pending-make'`)) || undefined,
  )
  await page.keys(Key.ENTER)
}

describe('by keyboard alone', () => {
  it('walks the surface, edits an address and comes back', async () => {
    await focus('[data-control="enc-1"]')
    await page.keys(Key.ARROW_RIGHT)
    await selected('Start')
    await page.keys(Key.ARROW_DOWN)
    await selected('Spray')
    await page.keys(Key.END)
    await selected('Blend')
    await page.keys(Key.HOME)
    await selected('Grain')
    await page.keys(Key.ENTER)
    await page.waitFor(
      'the address field',
      async () => (await active('hasAttribute("data-address-field")')) || undefined,
    )
    await page.keys(Key.chord(Key.CONTROL, 'a'), '1:cc90', Key.ENTER)
    await goOn()
    await page.waitFor(
      'focus in the field again',
      async () => (await active('hasAttribute("data-address-field")')) || undefined,
    )
    await page.waitFor(
      'the tag',
      async () => (await page.text('[data-control="knob-1"] .tagtext')) === '1:cc90',
    )
    await page.keys(Key.ESCAPE)
    await page.waitFor('focus back', async () => (await active('dataset.control')) === 'knob-1')
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await page.waitFor(
      'undone',
      async () => (await page.text('[data-control="knob-1"] .tagtext')) === '1:cc110',
    )
    await page.keys(Key.chord(Key.CONTROL, Key.SHIFT, 'z'))
    await page.waitFor(
      'redone',
      async () => (await page.text('[data-control="knob-1"] .tagtext')) === '1:cc90',
    )
  })

  it('walks the lattice as one stop: cells, next in use, next free, next finding, select', async () => {
    await focus('[data-testid=lattice]')
    const tag = async (): Promise<string> => (await page.text('[data-testid=readout]')).split('\n')[0] ?? ''
    await page.keys(Key.chord(Key.CONTROL, Key.ARROW_RIGHT))
    const first = await tag()
    await page.keys(Key.chord(Key.SHIFT, Key.ARROW_RIGHT))
    await page.waitFor(
      'a free cell',
      async () => (await page.text('[data-testid=readout]')).includes('free') || undefined,
    )
    await expect.poll(tag).not.toBe(first)
    await page.keys(Key.chord(Key.CONTROL, Key.ARROW_LEFT), Key.ENTER)
    await page.waitFor(
      'a selection',
      async () => (await page.count('[data-testid=lattice] [data-selected]')) > 0,
    )
    await page.keys(Key.PAGE_DOWN)
    await selected('Rings')
    await page.keys(Key.PAGE_DOWN)
    await page.waitFor('the next', async () => (await name()) !== 'Rings' || undefined)
    await page.keys(Key.PAGE_UP)
    await selected('Rings')
  })

  it('shows one channel large, walks it, and comes back', async () => {
    await focus('[data-testid=lattice]')
    await page.keys('z')
    await page.find('[data-testid=lattice-large]')
    await focus('[data-number="16"]')
    await page.keys(Key.ARROW_RIGHT, Key.ARROW_DOWN)
    await page.waitFor('17 and one down', async () => (await active('dataset.number')) === '33')
    await page.keys(Key.ESCAPE)
    await page.find('[data-testid=lattice]')
  })

  it('lists parameters, programs, and every destination at once', async () => {
    await page.click('[data-family=parameter]')
    await page.waitFor('the parameters', async () =>
      (await page.text('[data-testid=parameters]')).includes('1:nrpn640'),
    )
    // What is counted below the lattice is counted by the worker: wait for what was asked for.
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

  it('changes words of the sentence by keys', async () => {
    await focus('[data-control="fader-3"]')
    await page.keys(Key.SPACE)
    await selected('Ice')
    await focus('[data-word=channel]')
    await page.keys(Key.ENTER)
    await page.waitFor('the list', async () => (await page.count('[role=listbox]')) > 0)
    await page.keys('channel 8', Key.ENTER)
    await goOn()
    await page.waitFor('channel 8', async () =>
      (await page.text('[data-control="fader-3"] .tagtext')).startsWith('8:'),
    )
    await focus('[data-word=number]')
    await page.keys(Key.ENTER)
    await page.waitFor('the field', async () => (await page.count('input[data-word=number]')) > 0)
    await page.keys('32', Key.ENTER)
    await expect.poll(() => page.text('[role=alert]')).toContain('32 is out of range: 1 to 31')
    await page.keys(Key.chord(Key.CONTROL, 'a'), '6', Key.ENTER)
    await page.waitFor('the reason', async () =>
      (await page.text('[role=alert]')).includes('cannot start a 14-bit pair'),
    )
    await page.keys(Key.chord(Key.CONTROL, 'a'), '24', Key.ENTER)
    await page.waitFor(
      'the new tag',
      async () => (await page.text('[data-control="fader-3"] .tagtext')) === '8:cc24+56',
    )
  })

  it('refuses a bad address at the field, and keeps what was', async () => {
    const field = await page.driver.findElement(By.css('[data-address-field]'))
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '8:cc200', Key.ENTER)
    await expect.poll(() => page.text('[role=alert]')).toContain('CC 200 is out of range: use 0 to 127')
    await expect.poll(() => page.text('[data-control="fader-3"] .tagtext')).toBe('8:cc24+56')
    await field.sendKeys(Key.ESCAPE)
    await page.waitFor('the old address', async () => (await field.getAttribute('value')) === '8:cc24+56')
  })
})

describe('the sentence, from one control to the next', () => {
  it('keeps its fields open, and takes nothing half typed along', async () => {
    const tagOf = (id: string) => page.text(`[data-control="${id}"] .tagtext`)
    await page.click('[data-control="fader-4"]')
    await page.press('As fields')
    await page.find('#field-number')
    const [before, next] = [await tagOf('fader-4'), await tagOf('fader-5')]
    await setField(page, '[data-address-field]', 'what')
    await setField(page, '#field-number', '99')
    await page.click('[data-control="fader-5"]')
    const number = (tag: string): string => tag.slice(tag.indexOf(':') + 1)
    await page.waitFor('the next one', async () =>
      (await (await page.find('[data-address-field]')).getAttribute('value'))?.endsWith(number(next)),
    )
    await expect.poll(() => page.count('#field-number')).toBe(1)
    await expect.poll(() => page.count('[data-testid=selection-name] ~ * [role=alert]')).toBe(0)
    await expect.poll(() => tagOf('fader-4')).toBe(before)
    await expect.poll(() => tagOf('fader-5')).toBe(next)
  })
})
