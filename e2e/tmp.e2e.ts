import { it } from 'vitest'
import { writeFileSync, readFileSync } from 'node:fs'
import { startSession } from './browser'
import { MIDI_STAND_IN } from './midi-stand-in'
it('x', async () => {
  const page = await startSession()
  await page.devTools('Page.addScriptToEvaluateOnNewDocument', { source: MIDI_STAND_IN })
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
  await page.click('[data-side=ports]')
  await page.click('[data-testid=ask-ports]')
  await page.driver.executeScript(`midi.plug('in-1','Desk in','input')`)
  await page.click(`[data-port="syzra/usb"] button`); await page.press('Desk in')
  await page.click('[data-side=moves]')
  const src = readFileSync('bench/playing.bench.ts', 'utf8')
  const flood = /const FLOOD = `([\s\S]*?)`/.exec(src)![1]!
  await page.driver.manage().setTimeouts({ script: 60000 })
  await page.devTools('Profiler.enable', {})
  await page.devTools('Profiler.start', {})
  const found = await page.driver.executeAsyncScript(flood, 8, 3000)
  const { profile } = await page.devTools('Profiler.stop', {}) as any
  writeFileSync('/tmp/p.cpuprofile', JSON.stringify(profile))
  console.log(JSON.stringify(found))
  await page.quit()
})
