import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { writeRig, type Rig } from '../core/rig'
import { By, importText, Key, makePending, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
})
afterAll(() => page.quit())

const openName = (): Promise<string> => page.text('[data-testid=rig-menu]')
const named = (name: string) =>
  page.waitFor(`“${name}” open`, async () => (await openName()) === name || undefined)
const field = '[data-address-field]'

describe('rigs in this browser', () => {
  it('are renamed, copied, deleted, and brought back by undo', async () => {
    await page.click('[data-testid=rig-menu]')
    await setField(page, '#rig-name', 'Dome', Key.ENTER)
    await named('Dome')
    await page.press('Duplicate')
    await named('Dome copy')
    await page.click('[data-testid=rig-menu]')
    await page.press('Delete')
    await named('Dome')
    await page.press('Undo')
    await named('Dome copy')
    await page.click('[data-testid=rig-menu]')
    await expect.poll(() => page.text('header')).toContain('Dome copy')
    await page.keys(Key.ESCAPE)
  })

  it('refuse an empty name and keep the old one', async () => {
    await page.click('[data-testid=rig-menu]')
    await setField(page, '#rig-name', Key.BACK_SPACE, Key.ENTER)
    await page.waitFor('the reason', async () =>
      (await page.text('[data-sonner-toaster]')).includes('must not be empty'),
    )
    await page.keys(Key.ESCAPE)
    await named('Dome copy')
  })
})

describe('a second tab', () => {
  it('is told, reads along, takes over, and the first then only reads', async () => {
    const { driver } = page
    const first = await driver.getWindowHandle()
    await driver.switchTo().newWindow('tab')
    await page.setPage(1280, 800)
    const second = await driver.getWindowHandle()
    await page.go('/desk')
    await page.waitFor('the notice', async () =>
      (await page.text('[role=status]')).includes('open in another tab'),
    )

    await driver.switchTo().window(first)
    await page.click('[data-control="knob-1"]')
    await setField(page, field, '1:cc90', Key.ENTER)
    await makePending(page)
    await driver.switchTo().window(second)
    await page.waitFor(
      'the change',
      async () => (await page.text('[data-control="knob-1"] .tagtext')) === '1:cc90',
    )

    await page.press('Take over')
    await page.waitFor(
      'the right to edit',
      async () => (await page.count('[role=status]')) === 0 || undefined,
    )
    await page.click('[data-control="knob-2"]')
    await setField(page, field, '1:cc87', Key.ENTER)
    await makePending(page)
    await page.waitFor(
      'the edit',
      async () => (await page.text('[data-control="knob-2"] .tagtext')) === '1:cc87',
    )

    await driver.switchTo().window(first)
    await page.waitFor('the notice', async () =>
      (await page.text('[role=status]')).includes('taken this rig over'),
    )
    await page.waitFor(
      'the change',
      async () => (await page.text('[data-control="knob-2"] .tagtext')) === '1:cc87',
    )
    await page.click('[data-control="knob-3"]')
    await setField(page, field, '1:cc86', Key.ENTER)
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-sonner-toaster]')).includes('edited in another tab'),
    )
    await expect.poll(() => page.text('[data-control="knob-3"] .tagtext')).toBe('1:cc112')
    await driver.switchTo().window(second)
    await driver.close()
    await driver.switchTo().window(first)
  })

  it('keeps everything when the browser tab is killed in the middle of work', async () => {
    // The tab that had taken it over is closed: this one goes on by itself.
    await page.waitFor(
      'the right to edit',
      async () => (await page.count('[role=status]')) === 0 || undefined,
    )
    await page.click('[data-control="knob-4"]')
    await setField(page, field, '1:cc85', Key.ENTER)
    await makePending(page)
    await page.waitFor(
      'the edit',
      async () => (await page.text('[data-control="knob-4"] .tagtext')) === '1:cc85',
    )
    await page.driver.switchTo().newWindow('tab')
    const fresh = await page.driver.getWindowHandle()
    const [old] = (await page.driver.getAllWindowHandles()).filter((handle) => handle !== fresh)
    await page.driver.switchTo().window(old ?? '')
    await page.driver.close()
    await page.driver.switchTo().window(fresh)
    await page.setPage(1280, 800)
    await page.go('/desk')
    await page.waitFor(
      'the edit',
      async () => (await page.text('[data-control="knob-4"] .tagtext')) === '1:cc85',
    )
    await expect.poll(() => page.count('[role=status]')).toBe(0)
  })
})

/** The demo with so many templates that it holds at least `count` assignments. */
function grown(count: number): Rig {
  const rig = structuredClone(nineRingsRig('as-performed'))
  let total = 0
  for (let round = 0; total < count; round++) {
    for (const controller of rig.controllers) {
      const template = structuredClone(controller.templates[0])
      if (!template) continue
      controller.templates.push({ ...template, id: `more-${round}`, name: `More ${round}` })
      total += Object.keys(template.base).length
      for (const stack of template.stacks) {
        for (const layer of stack.layers) total += Object.keys(layer.assignments).length
      }
    }
  }
  return { ...rig, name: 'Grown' }
}

describe('a large rig', () => {
  it('of 10,000 assignments opens and is worked on', async () => {
    await importText(page, 'grown.json', writeRig(grown(10_000)))
    await named('Grown')
    await page.click('[data-control="knob-1"]')
    await setField(page, field, '1:cc16', Key.ENTER)
    await page.waitFor('the conflict', async () => (await page.count('aside [data-rule=same-address]')) > 0)
    expect(
      await page.driver.findElement(By.css('[data-control="knob-1"]')).getAttribute('data-severity'),
    ).toBe('error')
  })
})
