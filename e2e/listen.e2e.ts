import { beforeEach, describe, expect, it } from 'vitest'
import { MIDI_STAND_IN } from './support/midi-stand-in'
import { usePage } from './support/page'

const page = usePage()
beforeEach(async () => {
  await page.open('/desk')
  await page.atEveryLoad(MIDI_STAND_IN)
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
})

const PANEL = '[data-testid=find-out]'
const control = (id: string): string => `[data-testid=bench-surface] [data-control="${id}"]`
const listen = async (): Promise<void> => {
  await page.click('[data-side=listen]')
  await page.click('[data-testid=listen]')
}
async function press(id: string, times: number): Promise<void> {
  const { x, y } = await page.middleOf(control(id))
  const actions = page.driver.actions().move({ x, y, duration: 0 })
  for (let time = 0; time < times; time++) actions.press().pause(70).release().pause(260)
  await actions.perform()
}
const isSure = (): Promise<void> => page.reads('[data-testid=how-sure]', 'sure')
const heard = (tag: string): Promise<void> => page.reads('[data-testid=heard-tag]', tag)
/** A real controller sends values of a CC, one after the other. */
const send = (number: number, values: readonly number[], everyMs: number): Promise<unknown> =>
  page.runAsync(
    `const [number, values, every, done] = arguments
     let next = 0
     const timer = setInterval(() => {
       if (next < values.length) midi.deliver('in-1', [0xb0, number, values[next++]])
       else { clearInterval(timer); done() }
     }, every)`,
    number,
    values,
    everyMs,
  )

describe('finding out what a control is', () => {
  it('is off until it is switched on, is not sure of a button, asks, and is sure then', async () => {
    await page.click('[data-side=listen]')
    await press('key-1', 1)
    expect(await page.text(PANEL)).not.toMatch(/cc|note/)
    await page.click('[data-testid=listen]')
    await page.says(PANEL, /Listening[\s\S]*Move one control/)
    await press('key-1', 2)
    await page.says(PANEL, 'not sure yet')
    await page.says(PANEL, /held|on and off/)
    await page.click('[data-ask=press]')
    await page.says('[data-testid=asked]', /Now: Press it briefly/)
    await press('key-1', 6)
    await page.click('[data-testid=done-asked]')
    await isSure()
    await page.says('[data-testid=written]', /It sends what is written/)
  })

  it('is sure of a fader that is moved, and says how far it came', async () => {
    await listen()
    const { x, y } = await page.middleOf(control('fader-3'))
    const actions = page.driver.actions().move({ x, y, duration: 0 }).press()
    for (let up = 2; up <= 60; up += 2) actions.move({ x, y: y - up, duration: 25 })
    await actions.release().perform()
    await isSure()
    await page.says('[data-testid=heard-tag]', /cc\d+\+\d+$/)
    await page.says(PANEL, /two halves, MSB first/)
  })

  it('names the other axis of a surface, and what each of them sends', async () => {
    await listen()
    await page.press('Merrod 49')
    const { x, y } = await page.middleOf(control('xy'))
    // A busy machine sees fewer places of one stroke: it is moved to and fro until enough was heard.
    await page.waitFor('the other axis', async () => {
      const actions = page.driver
        .actions()
        .move({ x: x - 30, y: y + 30, duration: 0 })
        .press()
      for (const step of [...Array(20).keys(), ...[...Array(20).keys()].reverse()])
        actions.move({ x: x - 30 + step * 3, y: y + 30 - step * 2, duration: 25 })
      await actions.release().perform()
      return (await page.text(PANEL)).includes('the other axis of one surface')
    })
    await page.says('[data-testid=companions]', /cc/)
  })

  it('finds a wrong number of real hardware, counts clicks of an encoder, and writes both down', async () => {
    await page.click('[data-side=ports]')
    await page.click('[data-testid=ask-ports]')
    await page.run(`midi.plug('in-1', 'Desk in', 'input')`)
    await page.pick('[data-port="syzra/usb"] button', 'Desk in')
    await page.waitFor('it to be heard', () => page.run(`return midi.isHeard('in-1')`))
    await listen()
    const sweep = Array.from({ length: 43 }, (_, index) => index * 3)
    await send(86, sweep, 8)
    await heard('1:cc86')
    await isSure()
    await page.says('[data-testid=written]', /sends this nowhere/)
    await page.pick('[data-testid=heard-is] button', 'Grain')
    await page.says('[data-testid=written]', /written:[\s\S]*heard: Turn sends CC 86/)
    await page.click('[data-testid=write-down]')
    // Something was taught what the knob sent so far: that is said first.
    await page.makePending()
    await page.says('[data-testid=written]', 'It sends what is written')

    await send(119, [1, 1, 1, 1, 1, 127, 127, 127, 127, 127], 20)
    await heard('1:cc119')
    await isSure()
    await page.click('[data-testid=count-clicks]')
    await send(
      119,
      Array.from({ length: 30 }, () => 1),
      20,
    )
    await page.click('[data-testid=done-asked]')
    await page.says(PANEL, '30 clicks a turn')
    await page.pick('[data-testid=heard-is] button', 'Wow')
    await page.click('[data-testid=write-clicks]')
    await page.counts('[data-testid=write-clicks]', 0)
  })
})
