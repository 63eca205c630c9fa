import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openPerformed, pickOption, startSession, type Session } from './browser'
import { MIDI_STAND_IN } from './midi-stand-in'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.devTools('Page.addScriptToEvaluateOnNewDocument', { source: MIDI_STAND_IN })
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
  await page.press('Bench')
  await page.find('[data-testid=bench-surface]')
  await page.click('[data-side=ports]')
  await page.click('[data-testid=ask-ports]')
  await page.driver.executeScript(`midi.plug('in-1', 'Desk in', 'input')`)
  await pickOption(page, '[data-port="syzra/usb"] button', 'Desk in')
  await page.driver.executeScript(`midi.plug('in-2', 'Board in', 'input')`)
  await pickOption(page, '[data-port="umbrek/din"] button', 'Board in')
  await page.press('Sheets')
  await page.click('[data-sheet=living]')
  await page.find('[data-testid=living-surface]')
})
afterAll(() => page.quit())

const deliver = (...messages: number[][]): Promise<unknown> =>
  page.driver.executeScript(`midi.deliver('in-1', ...${JSON.stringify(messages)})`)
const written = (control: string): Promise<string> => page.text(`[data-living="${control}"]`)

describe('the living card', () => {
  it('says what each control moves now, and shows where its value stands as it comes in', async () => {
    await expect.poll(() => written('fader-1')).toContain('Rings')
    await expect.poll(() => written('fader-1')).toContain('Volume')
    const before = await page.text('[data-living="fader-1"] [data-testid=living-value]')
    await deliver([0xb0, 16, 0], [0xb0, 48, 0], [0xb0, 16, 64], [0xb0, 48, 0])
    await page.waitFor('the value', async () => {
      const now = await page.text('[data-living="fader-1"] [data-testid=living-value]')
      return now !== before && /\d/.test(now)
    })
  })

  it('follows the layer that the hardware shows', async () => {
    const layers = await page.text('[data-testid=living-layers]')
    const cue = await written('key-1')
    await deliver([0x95, 45, 100], [0x85, 45, 64])
    await page.waitFor(
      'the next layer',
      async () => (await page.text('[data-testid=living-layers]')) !== layers,
    )
    await expect.poll(() => page.text('[data-testid=living-layers]')).toContain('Scenes')
    await page.waitFor('what the button does there', async () => (await written('key-1')) !== cue)
  })

  it('follows the passage that a press brings, and goes to another by a finger', async () => {
    const passages = (): Promise<string[]> =>
      page.driver.executeScript(
        `return [...document.querySelectorAll('[data-living-passage][aria-pressed=true]')].map((each) => each.dataset.livingPassage)`,
      )
    await page.waitFor('the first passage', async () => (await passages()).join() === 'overture')
    const knob = await written('knob-1')
    // The first switch of the foot board: a program with its bank, and the next row.
    await page.driver.executeScript(`midi.deliver('in-2', [0xb1, 0, 0], [0xb1, 32, 1], [0xc1, 0])`)
    await page.waitFor('the next passage', async () => (await passages()).join() === 'rings')
    await page.click('[data-living-controller=syzra]')
    await page.waitFor('what the knob moves there', async () => (await written('knob-1')) !== knob)
    await page.click('[data-living-passage=transit]')
    await page.waitFor('the passage that was chosen', async () => (await passages()).join() === 'transit')
    await page.click('[data-living-passage=overture]')
    await page.waitFor('what it moved at first', async () => (await written('knob-1')) === knob)
  })

  it('is changed to another controller by a finger, and left again', async () => {
    await page.click('[data-living-controller=pelluna]')
    await page.waitFor('its pads', async () => (await page.count('[data-living="pad-1"]')) === 1)
    const { width, height } = await (await page.find('[data-living-controller=pelluna]')).getRect()
    expect(Math.min(width, height)).toBeGreaterThanOrEqual(44)
    await page.click('[aria-label="Back to the sheets"]')
    await page.find('[data-sheet=living]')
    expect(await page.errors()).toEqual([])
  })
})
