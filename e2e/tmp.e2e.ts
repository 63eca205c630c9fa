import { it } from 'vitest'
import { writeFileSync } from 'node:fs'
import { startSession, openPerformed } from './browser'
it('x', async () => {
  const page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
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
  await drag('fader-3', 30)
  await drag('key-2', 0)
  await drag('key-5', 0)
  await page.click('[data-testid=narrow]')
  writeFileSync('/tmp/shots/a.png', await page.shoot())
  await page.click('[data-testid=narrow]')
  await page.click('[data-side=destinations]')
  await page.click('[data-manners=loomwright]')
  await page.click('[data-misbehaves=drops]')
  await page.press('Pelluna 36')
  await drag('pad-3', 0)
  writeFileSync('/tmp/shots/b.png', await page.shoot())
  await page.quit()
})
