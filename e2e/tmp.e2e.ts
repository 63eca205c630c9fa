import { it } from 'vitest'
import { writeFileSync } from 'node:fs'
import { startSession, openPerformed } from './browser'
import { MIDI_STAND_IN } from './midi-stand-in'
it('x', async () => {
  const page = await startSession()
  await page.devTools('Page.addScriptToEvaluateOnNewDocument', { source: MIDI_STAND_IN })
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
  await page.driver.executeScript(`localStorage.setItem('deft-lattice/theme','night')`)
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
  const drag = async (id: string, up: number) => {
    const origin = await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
    await page.driver
      .actions()
      .move({ origin })
      .press()
      .move({ origin, x: 0, y: -up, duration: 300 })
      .release()
      .perform()
  }
  await drag('fader-1', 50)
  await drag('key-2', 0)
  await page.click('[data-testid=narrow]')
  await page.click('[data-side=ports]')
  await page.click('[data-testid=ask-ports]')
  await page.driver.executeScript(
    `midi.plug('in-1','Desk in','input'); midi.plug('in-2','Feet in','input'); midi.plug('o','Synth out','output'); midi.hold('in-2', true)`,
  )
  for (const [key, name] of [
    ['syzra/usb', 'Desk in'],
    ['umbrek/din', 'Feet in'],
  ]) {
    await page.click(`[data-port="${key}"] button`)
    await page.press(name!)
  }
  await page.driver.executeScript(`midi.unplug('in-1')`)
  await new Promise((r) => setTimeout(r, 400))
  writeFileSync('/tmp/shots/a.png', await page.shoot())
  await page.click('[data-testid=captures]')
  await page.click('[data-port="merrod/usb"] button')
  await new Promise((r) => setTimeout(r, 300))
  writeFileSync('/tmp/shots/b.png', await page.shoot())
  await page.quit()
})
