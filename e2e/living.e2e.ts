import { beforeEach, describe, expect, it } from 'vitest'
import { MIDI_STAND_IN } from './support/midi-stand-in'
import { usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()
beforeEach(async () => {
  await page.open('/desk', AS_PERFORMED)
  await page.atEveryLoad(MIDI_STAND_IN)
  await page.go('/bench')
  await page.click('[data-side=ports]')
  await page.click('[data-testid=ask-ports]')
  for (const [id, name, port] of [
    ['in-1', 'Desk in', 'syzra/usb'],
    ['in-2', 'Board in', 'umbrek/din'],
  ]) {
    await page.run(`midi.plug('${id}', '${name}', 'input')`)
    await page.pick(`[data-port="${port}"] button`, name ?? '')
  }
  await page.press('Sheets')
  await page.click('[data-sheet=living]')
  await page.find('[data-testid=living-surface]')
})

const deliver = (id: string, ...messages: number[][]): Promise<unknown> =>
  page.run(`midi.deliver('${id}', ...${JSON.stringify(messages)})`)
const written = (control: string): Promise<string> => page.text(`[data-living="${control}"]`)

describe('the living card', () => {
  it('says what each control moves now, its value as it comes in, and follows the layer', async () => {
    await page.says('[data-living="fader-1"]', 'Rings')
    await page.says('[data-living="fader-1"]', 'Volume')
    const value = '[data-living="fader-1"] [data-testid=living-value]'
    const before = await page.text(value)
    await deliver('in-1', [0xb0, 16, 0], [0xb0, 48, 0], [0xb0, 16, 64], [0xb0, 48, 0])
    await page.waitFor('the value', async () => {
      const now = await page.text(value)
      return now !== before && /\d/.test(now)
    })
    const cue = await written('key-1')
    await deliver('in-1', [0x95, 45, 100], [0x85, 45, 64])
    await page.says('[data-testid=living-layers]', 'Scenes')
    await page.waitFor('what the button does there', async () => (await written('key-1')) !== cue)
  })

  it('follows the passage that a press brings, and goes to another passage or controller by a finger', async () => {
    const passage = (wanted: string): Promise<unknown> =>
      page.find(`[data-living-passage=${wanted}][aria-pressed=true]`)
    await passage('overture')
    const knob = await written('knob-1')
    // The first switch of the foot board: a program with its bank, and the next row.
    await deliver('in-2', [0xb1, 0, 0], [0xb1, 32, 1], [0xc1, 0])
    await passage('rings')
    await page.click('[data-living-controller=syzra]')
    await page.waitFor('what the knob moves there', async () => (await written('knob-1')) !== knob)
    await page.click('[data-living-passage=transit]')
    await passage('transit')
    await page.counts('[data-living-passage][aria-pressed=true]', 1)
    await page.click('[data-living-passage=overture]')
    await page.waitFor('what it moved at first', async () => (await written('knob-1')) === knob)

    await page.click('[data-living-controller=pelluna]')
    await page.find('[data-living="pad-1"]')
    const { width, height } = await (await page.find('[data-living-controller=pelluna]')).getRect()
    expect(Math.min(width, height)).toBeGreaterThanOrEqual(44)
    await page.click('[aria-label="Back to the sheets"]')
    await page.find('[data-sheet=living]')
  })
})
