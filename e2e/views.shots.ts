import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { writeRig } from '../core/rig'
import { nineRingsRig } from '../demo'
import { surfaceCard } from '../core/sheets/surface-card'
import { nodeTools } from '../shared/sheets/node-tools'
import { writePdf } from '../shared/sheets/pdf'
import { By, idsFrom, Key, startPage, type Page } from './support/page'
import { AS_PERFORMED } from './support/rigs'
import { held, playedBy, swept, touched } from './support/hand-played'
import { MIDI_STAND_IN } from './support/midi-stand-in'
import { paintedPng } from '../shared/sheets/testing/poppler'

const FOLDER = join('docs', 'screenshots')
const SETTLE_MS = 500

let page: Page
beforeAll(async () => {
  mkdirSync(FOLDER, { recursive: true })
  page = await startPage()
  await page.go('/desk')
  await page.find('[data-testid=findings-count]')
})
afterAll(() => page.end())

async function keep(name: string): Promise<void> {
  await new Promise((resolve) => setTimeout(resolve, SETTLE_MS))
  const picture = await page.shoot()
  expect(picture.length).toBeGreaterThan(20_000)
  writeFileSync(join(FOLDER, `${name}.png`), picture)
}

async function inTheme(theme: 'vellum' | 'night', path: string, ready: string): Promise<void> {
  await page.run(`localStorage.setItem('deft-lattice/theme', arguments[0])`, theme)
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

it('what changed since, light and dark', { timeout: 60_000 }, async () => {
  for (const theme of ['vellum', 'night'] as const) {
    await inTheme(theme, '/history', '[data-testid=compare-other]')
    const choose = (): Promise<void> => page.pick('[data-testid=compare-other] button', 'A file')
    await page.giveFile(choose, 'performed.json', writeRig(nineRingsRig('as-performed')))
    await page.find('[data-testid=history-lattice]')
    await page.find('[data-testid=history-findings]')
    await keep(`history-${theme}`)
  }
})

it('the findings', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=findings-count]')
  await page.find('[data-testid=findings] [data-fix]')
  await keep('findings')
})

it('a plan', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=plan-open]')
  await page.find('[aria-busy=false] > [data-testid=plan-summary]')
  await keep('plan')
  await page.click('[data-testid=plan-open]')
})

const selectRun = (kind: string, from: number, to: number) => page.select(...idsFrom(kind, from, to))
const showLens = async (lens: string, ready: string): Promise<void> => {
  await page.click(`[data-lens=${lens}]`)
  await page.find(ready)
}

it('the lens on destinations', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await showLens('destinations', '[data-board-item]')
  await selectRun('fader', 1, 8)
  const search = await page.find('[data-testid=board-search]')
  await search.sendKeys('send to')
  await (await page.find('[data-board-item="t1-send-echo"]')).click()
  await keep('destinations')
  await page.run(`localStorage.setItem('deft-lattice/lens', 'addresses')`)
})

it('what a change breaks, what must be taught again, and the lists of a destination', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-control="fader-3"]')
  const field = await page.find('[data-address-field]')
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '1:cc30+62', Key.ENTER)
  await page.find('[data-testid=pending]')
  await page.click('[data-testid=teach-open]')
  await page.find('[data-teach]')
  await keep('teach')
  await page.click('[data-testid=pending-drop]')
})

it('lights, roles and the light key, light and dark', async () => {
  await page.click('[data-testid=rig-menu]')
  await page.press('Demo as performed')
  await page.press('Desk')
  for (const theme of ['vellum', 'night'] as const) {
    await inTheme(theme, '/desk', '[data-testid=surface]')
    await page.press('Pelluna 36')
    await showLens('lights', '[data-role]')
    await selectRun('pad', 7, 14)
    await page.click('[data-testid=lights] button[aria-label^="The surface shows"]')
    await page.press('the selected ones active')
    if (theme === 'night') continue
    await keep('lights')
  }
  await page.run(`localStorage.setItem('deft-lattice/lens', 'addresses')`)
  await page.go('/desk')
  await page.click('[data-testid=rig-menu]')
  await page.press('Demo as found')
})

it('the rig as a picture', async () => {
  await inTheme('vellum', '/rig', '[data-card=loomwright]')
  await page.click('[data-card=loomwright] button')
  await keep('rig')
})

it('sheets: a card, as printed, the checklist, and the living card', async () => {
  await inTheme('vellum', '/desk', '[data-testid=surface]')
  await page.open('/desk', AS_PERFORMED)
  await page.press('Sheets')
  await page.click('[data-sheet="card pelluna"]')
  await page.waitFor('both cards', async () => (await page.count('[data-testid=card]')) === 2)
  await keep('sheets-vellum')
  const pdf = await writePdf(
    surfaceCard(nineRingsRig('as-performed'), 'umbrek', 'apart', 'a4'),
    '',
    nodeTools,
  )
  writeFileSync(join(FOLDER, 'printed-card.png'), paintedPng(pdf))
  await page.press('Sheets')
  await page.click('[data-sheet=living]')
  await page.find('[data-living="fader-1"]')
  await keep('living-card')
  await inTheme('night', '/sheets', '[data-testid=sheet]')
  await page.click('[data-sheet=checklist]')
  await page.find('[data-testid=tick]')
  for (const tick of (await page.driver.findElements(By.css('[data-testid=tick]'))).slice(0, 3))
    await tick.click()
  await keep('checklist-night')
  await page.click('[data-testid=rig-menu]')
  await page.press('Demo as found')
})

it('the Bench', async () => {
  const move = async (id: string, up: number, duration: number): Promise<void> => {
    const origin = await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
    await page.driver
      .actions()
      .move({ origin })
      .press()
      .move({ origin, x: 0, y: -up / 2, duration })
      .move({ origin, x: 0, y: -up, duration })
      .release()
      .perform()
  }
  await inTheme('vellum', '/bench', '[data-testid=bench-surface]')
  for (const [id, up] of [
    ['knob-5', 90],
    ['enc-2', 70],
    ['fader-1', 30],
    ['fader-2', 50],
  ] as const)
    await move(id, up, 400)
  await page.find('[data-lane]')
  await keep('bench')
})

it('proving: a rehearsal, a line check', async () => {
  await inTheme('night', '/bench', '[data-testid=bench-surface]')
  await page.click('[data-side=prove]')
  await page.click('[data-testid=rehearse-now]')
  await page.find('[data-testid=rehearsal-summary]')
  await page.click('[data-finding=ends] button')
  await keep('prove-rehearse-night')
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.open('/desk', AS_PERFORMED)
  await page.press('Bench')
  await page.find('[data-testid=bench-surface]')
  await page.click('[data-side=prove]')
  await page.click('[data-prove=line]')
  await page.click('[data-testid=line-start]')
  await page.find('[data-testid=line-count]')
  const press = async (id: string): Promise<void> => {
    const origin = await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
    await page.driver.actions().move({ origin }).press().pause(50).release().perform()
  }
  for (const id of [...idsFrom('key', 1, 6), ...idsFrom('run', 1, 3)]) await press(id)
  await page.pick('button[aria-label^="Layer of Knobs"]', 'Transit')
  for (const id of idsFrom('knob', 1, 5)) {
    const origin = await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
    await page.driver
      .actions()
      .move({ origin })
      .press()
      .move({ origin, x: 0, y: -60, duration: 150 })
      .release()
      .perform()
  }
  await page.find('[data-testid=line-causes] li')
  await keep('prove-line')
})

it('finding out what a control is', async () => {
  await page.atEveryLoad(MIDI_STAND_IN)
  await inTheme('vellum', '/bench', '[data-testid=bench-surface]')
  await page.click('[data-side=ports]')
  await page.press('Umbrek 6')
  await page.click('[data-testid=ask-ports]')
  await page.run(`midi.plug('in-1', 'Umbrek in', 'input')`)
  await page.pick('[data-port^="umbrek/"] button', 'Umbrek in')
  await page.waitFor('it to be heard', () => page.run(`return midi.isHeard('in-1')`))
  await page.click('[data-side=listen]')
  await page.click('[data-moving=draw]')
  await page.type('[data-testid=moving-columns]', '6')
  await page.click('[data-testid=begin-drawing]')
  await playedBy(page, 'in-1', swept(102))
  await playedBy(page, 'in-1', touched(110, swept(103)))
  await playedBy(page, 'in-1', swept(104))
  await page.click('[data-testid=stop-moving]')
  await page.click('[data-moving=one]')
  await page.click('[data-testid=listen]')
  await playedBy(page, 'in-1', held(106))
  await page.run(`document.documentElement.dataset.theme = 'night'`)
  await keep('find-out-night')
})

it('the first hour: a new controller', async () => {
  await inTheme('vellum', '/desk', '[data-testid=lattice]')
  await page.click('[data-testid=rig-menu]')
  await page.click('[data-testid=new-rig]')
  await page.press('Add a controller')
  await page.click('[data-testid=add-another]')
  await page.click('[data-starter=small-keyboard]')
  await page.find('[data-testid=sending]')
  await keep('new-controller')
})
