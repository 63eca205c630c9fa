import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { startSession, type Session } from './browser'

const FOLDER = join('docs', 'screenshots')
const SETTLE_MS = 500

let page: Session
beforeAll(async () => {
  mkdirSync(FOLDER, { recursive: true })
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=findings-count]')
})
afterAll(() => page.quit())

async function keep(name: string): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, SETTLE_MS))
  const picture = await page.shoot()
  expect(picture.length).toBeGreaterThan(20_000)
  writeFileSync(join(FOLDER, `${name}.png`), picture)
}

async function inTheme(theme: 'vellum' | 'night', path: string, ready: string): Promise<void> {
  await page.driver.executeScript(`localStorage.setItem('deft-lattice/theme', arguments[0])`, theme)
  await page.go(path)
  await page.find(ready)
}

it('the Desk, light and dark', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-control="enc-5"]')
  await page.find('aside [data-fix]')
  await keep('desk-vellum')
  await inTheme('night', '/desk', '[data-testid=lattice]')
  await page.click('[data-control="fader-2"]')
  await page.find('aside [data-fix]')
  await keep('desk-night')
})

it('pads with the lattice of notes, and keys', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.press('Pelluna 36')
  await page.press('Notes')
  await page.click('[data-control="pad-35"]')
  await keep('desk-pads-notes')
  await page.press('Merrod 49')
  await page.press('CC')
  await page.click('[data-control="xy"]')
  await keep('desk-keys')
})

it('the findings', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=findings-count]')
  await page.find('[data-testid=findings] [data-fix]')
  await keep('findings')
})

it('one channel large, and what is shared on purpose', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-control="fader-1"]')
  await page.find('aside [data-fix]')
  await page.click('[data-zoom="1"]')
  await page.find('[data-testid=lattice-large]')
  await keep('channel')
  await inTheme('night', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=findings-count]')
  await page.click('[data-part=shared]')
  await page.find('[data-accord]')
  await page.click('[data-family=parameter]')
  await page.find('[data-testid=parameters]')
  await keep('shared-night')
})

it('a plan, light and dark', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=plan-open]')
  await page.find('[data-testid=plan-summary]')
  await keep('plan')
  await inTheme('night', '/desk', '[data-testid=lattice]')
  await page.press('Notes')
  await page.click('[data-testid=plan-open]')
  await page.find('[data-testid=plan-summary]')
  await page.driver.executeScript(
    `document.querySelector('[data-plan-group]').scrollIntoView()
     document.querySelectorAll('[data-testid=plan] summary').forEach((summary) => summary.click())`,
  )
  await keep('plan-night')
  await page.click('[data-testid=plan-open]')
})

it('joining a control to a parameter', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-control="knob-2"]')
  await page.click('[data-testid=join]')
  await page.find('[data-testid=join-picker] [data-parameter]')
  await page.keys('filter')
  await keep('join')
})

it('drawing, many at once, templates and the table', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.press('Pelluna 36')
  await page.click('[data-control="pad-1"]')
  await page.click('[data-tool=draw]')
  await page.find('[data-testid=draw-panel]')
  await page.click('[data-testid=whole-block]')
  await keep('draw')
  await page.click('[data-tool=draw]')
  await page.find('[data-testid=many]')
  await page.click('[data-testid=all-layers]')
  await keep('many')
  await page.press('Umbrek 6')
  await page.click('[data-tool=templates]')
  await page.find('[data-stack]')
  await keep('templates')
  await inTheme('night', '/desk', '[data-testid=lattice]')
  await page.click('[data-tool=ledger]')
  await page.find('[data-testid=ledger-grid] [role=row]')
  await keep('table-night')
  await page.click('[data-tool=ledger]')
})

it('the rig as a picture', async () => {
  await inTheme('vellum', '/rig', '[data-card=loomwright]')
  await page.click('[data-passage=overture]')
  await page.find('[data-testid=passage-editor]')
  await keep('passages')
  await inTheme('vellum', '/rig', '[data-card=loomwright]')
  await page.click('[data-card=loomwright] button')
  await keep('rig')
  await inTheme('night', '/rig', '[data-card=junction]')
  await page.click('[data-card=junction] button')
  await page.driver.executeScript(
    `[...document.querySelectorAll('[data-testid=controller-ports] button')]
       .filter(({ title }) => title.startsWith('What the cable'))[1].click()`,
  )
  await page.click('[data-testid=rule]')
  await keep('rig-cable-night')
})

it('a destination map, light and dark', async () => {
  await inTheme('vellum', '/sheets', '[data-testid=sheet]')
  await page.press('Ondrel VI')
  await keep('sheets-vellum')
  await inTheme('night', '/sheets', '[data-testid=sheet]')
  await keep('sheets-night')
})
