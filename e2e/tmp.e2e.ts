import { writeFileSync } from 'node:fs'
import { it } from 'vitest'
import { nineRingsRig } from '../demo'
import { writeRig } from '../core/rig'
import { firstLoad } from '../bench/first-load'
import { giveFile, importText, Key, openPerformed, pickOption, setField, startSession } from './browser'
it('shots', { timeout: 200_000 }, async () => {
  const r: any = await (firstLoad as any)()
  console.log('first load', (r.files ?? r).reduce((s: number, f: any) => s + f.sent, 0))
  const page = await startSession()
  const shoot = async (name: string) => { await new Promise((r) => setTimeout(r, 900)); writeFileSync(`/tmp/shots/${name}.png`, await page.shoot()) }
  await page.go('/desk')
  await page.find('[data-testid=rig-menu]')
  await openPerformed(page)
  await page.press('History')
  await shoot('h-empty')
  await setField(page, '[data-testid=version-name]', 'Before the tour', Key.ENTER)
  await page.press('Rig')
  await page.click('[aria-label="Delete Transit"]')
  await page.press('Desk')
  await page.press('History')
  await giveFile(page, () => pickOption(page, '[data-testid=compare-other] button', 'A file'), 'x.json', writeRig(nineRingsRig('as-found')))
  await page.find('[data-testid=history-summary]')
  await shoot('h-file')
  await page.press('Before the tour')
  await page.waitFor('x', async () => (await page.text('[data-testid=history-summary]')).includes('1 thing'))
  await shoot('h-version')
  await page.driver.executeScript(`document.documentElement.dataset.theme='night'; document.documentElement.classList.add('dark')`)
  await page.driver.sendAndGetDevToolsCommand('Emulation.setEmulatedMedia', { features: [{ name: 'prefers-color-scheme', value: 'dark' }] })
  await shoot('h-night')
  await page.quit()
})
