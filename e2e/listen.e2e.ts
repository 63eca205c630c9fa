import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { pickOption, startSession, type Session } from './browser'
import { MIDI_STAND_IN } from './midi-stand-in'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.devTools('Page.addScriptToEvaluateOnNewDocument', { source: MIDI_STAND_IN })
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
})
afterAll(() => page.quit())

const midi = (script: string): Promise<unknown> => page.driver.executeScript(script)
const control = (id: string): string => `[data-testid=bench-surface] [data-control="${id}"]`
const panel = (): Promise<string> => page.text('[data-testid=find-out]')
async function press(id: string, times: number): Promise<void> {
  const origin = await page.find(control(id))
  const actions = page.driver.actions().move({ origin })
  for (let time = 0; time < times; time++) actions.press().pause(70).release().pause(260)
  await actions.perform()
}
const pick = (css: string, name: string): Promise<void> => pickOption(page, `${css} button`, name)

describe('finding out what a control is', () => {
  it('is off until it is switched on, and says what it hears', async () => {
    await page.click('[data-side=listen]')
    await press('key-1', 1)
    expect(await panel()).not.toMatch(/cc|note/)
    await page.click('[data-testid=listen]')
    await expect.poll(panel).toMatch(/Listening[\s\S]*Move one control/)
  })

  it('is not sure of a button that was pressed, asks, and is sure then', async () => {
    await press('key-1', 2)
    await page.waitFor('a guess', async () => (await panel()).includes('not sure yet'))
    await expect.poll(panel).toMatch(/held|on and off/)
    await page.click('[data-ask=press]')
    await expect.poll(() => page.text('[data-testid=asked]')).toMatch(/Now: Press it briefly/)
    await press('key-1', 6)
    await page.click('[data-testid=done-asked]')
    await page.waitFor('it to be sure', async () => (await page.text('[data-testid=how-sure]')) === 'sure')
    await expect.poll(() => page.text('[data-testid=written]')).toMatch(/It sends what is written/)
  })

  it('is sure of a fader that is moved, and says how far it came', async () => {
    const origin = await page.find(control('fader-3'))
    const actions = page.driver.actions().move({ origin }).press()
    for (let up = 2; up <= 60; up += 2) actions.move({ origin, x: 0, y: -up, duration: 25 })
    await actions.release().perform()
    await page.waitFor('it to be sure', async () => (await page.text('[data-testid=how-sure]')) === 'sure')
    await expect.poll(() => page.text('[data-testid=heard-tag]')).toMatch(/cc\d+\+\d+$/)
    await expect.poll(panel).toMatch(/two halves, MSB first/)
  })

  it('names the other axis of a surface, and what each of them sends', async () => {
    await page.press('Merrod 49')
    const origin = await page.find(control('xy'))
    // A busy machine sees fewer places of one stroke: it is moved to and fro until enough was heard.
    await page.waitFor('the other axis', async () => {
      const actions = page.driver.actions().move({ origin, x: -30, y: 30 }).press()
      for (const step of [...Array(20).keys(), ...[...Array(20).keys()].reverse()])
        actions.move({ origin, x: -30 + step * 3, y: 30 - step * 2, duration: 25 })
      await actions.release().perform()
      return (await panel()).includes('the other axis of one surface')
    })
    await expect.poll(() => page.text('[data-testid=companions]')).toMatch(/cc/)
  })

  it('finds a wrong number of real hardware, and writes down what it sends', async () => {
    await page.press('Syzra 24')
    await page.click('[data-side=ports]')
    await page.click('[data-testid=ask-ports]')
    await midi(`midi.plug('in-1', 'Desk in', 'input')`)
    await pick('[data-port="syzra/usb"]', 'Desk in')
    await page.waitFor('it to be heard', async () => (await midi(`return midi.isHeard('in-1')`)) as boolean)
    await page.click('[data-side=listen]')
    await page.driver.executeAsyncScript(`
      const done = arguments[0]
      let value = 0
      const timer = setInterval(() => {
        midi.deliver('in-1', [0xb0, 86, value])
        value += 3
        if (value > 127) { clearInterval(timer); done() }
      }, 8)`)
    await page.waitFor('what came', async () => (await page.text('[data-testid=heard-tag]')) === '1:cc86')
    await expect.poll(() => page.text('[data-testid=how-sure]')).toBe('sure')
    await expect.poll(() => page.text('[data-testid=written]')).toMatch(/sends this nowhere/)
    await pick('[data-testid=heard-is]', 'Grain')
    await expect
      .poll(() => page.text('[data-testid=written]'))
      .toMatch(/written:[\s\S]*heard: Turn sends CC 86/)
    await page.click('[data-testid=write-down]')
    // Something was taught what the knob sent so far: that is said first.
    await page.click('[data-testid=pending-make]')
    await page.waitFor('it to be written', async () =>
      (await page.text('[data-testid=written]')).includes('It sends what is written'),
    )
  })

  it('counts the clicks of an encoder once round, and writes them down', async () => {
    const turn = (values: readonly number[]): Promise<unknown> =>
      page.driver.executeAsyncScript(
        `const [values, done] = arguments
        let next = 0
        const timer = setInterval(() => {
          if (next < values.length) midi.deliver('in-1', [0xb0, 119, values[next++]])
          else { clearInterval(timer); done() }
        }, 20)`,
        values,
      )
    await turn([1, 1, 1, 1, 1, 127, 127, 127, 127, 127])
    await page.waitFor('what came', async () => (await page.text('[data-testid=heard-tag]')) === '1:cc119')
    await expect.poll(() => page.text('[data-testid=how-sure]')).toBe('sure')
    await page.click('[data-testid=count-clicks]')
    await turn(Array.from({ length: 30 }, () => 1))
    await page.click('[data-testid=done-asked]')
    await page.waitFor('the count', async () => (await panel()).includes('30 clicks a turn'))
    await pick('[data-testid=heard-is]', 'Wow')
    await page.click('[data-testid=write-clicks]')
    await page.waitFor('it to be written', async () => (await page.count('[data-testid=write-clicks]')) === 0)
    await page.click('[data-testid=stop-listening]')
  })
})
