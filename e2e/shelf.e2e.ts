import { describe, expect, it } from 'vitest'
import { writeRig, type Rig } from '../core/rig'
import { Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()
const named = (name: string): Promise<void> => page.reads('[data-testid=rig-menu]', name)
const FIELD = '[data-address-field]'
const mayEdit = (): Promise<void> => page.counts('[role=status]', 0)

/** Change the address of a control of the demo, whose mapping then has to be taught again. */
async function change(control: string, tag: string): Promise<void> {
  await page.click(`[data-control="${control}"]`)
  await page.type(FIELD, tag, Key.ENTER)
  await page.makePending()
  await page.hasTag(control, tag)
}

describe('rigs in this browser', () => {
  it('are renamed, copied, deleted and brought back by undo; an empty name is refused', async () => {
    await page.open('/desk')
    await page.click('[data-testid=rig-menu]')
    await page.type('#rig-name', 'Dome', Key.ENTER)
    await named('Dome')
    await page.press('Duplicate')
    await named('Dome copy')
    await page.click('[data-testid=rig-menu]')
    await page.press('Delete')
    await named('Dome')
    await page.press('Undo')
    await named('Dome copy')
    await page.click('[data-testid=rig-menu]')
    await page.says('header', 'Dome copy')
    await page.type('#rig-name', Key.BACK_SPACE, Key.ENTER)
    await page.says('[data-sonner-toaster]', 'must not be empty')
    await page.keys(Key.ESCAPE)
    await named('Dome copy')
  })
})

describe('a second tab', () => {
  it('says that the rig is open elsewhere, follows it, takes over; the first tab then only reads until the second closes', async () => {
    await page.open('/desk')
    await page.find('[data-testid=surface]')
    const first = await page.driver.getWindowHandle()
    const second = await page.newTab('/desk')
    await page.says('[role=status]', 'open in another tab')
    await page.toTab(first)
    await change('knob-1', '1:cc90')
    await page.toTab(second)
    await page.hasTag('knob-1', '1:cc90')

    await page.press('Take over')
    await mayEdit()
    await change('knob-2', '1:cc87')
    await page.toTab(first)
    await page.says('[role=status]', 'taken this rig over')
    await page.hasTag('knob-2', '1:cc87')
    await page.click('[data-control="knob-3"]')
    await page.type(FIELD, '1:cc86', Key.ENTER)
    await page.says('[data-sonner-toaster]', 'edited in another tab')
    await page.hasTag('knob-3', '1:cc112')
    await page.toTab(second)
    await page.closeTab(first)
    await mayEdit()
  })

  it('has everything when the first was killed in the middle of work', async () => {
    await page.open('/desk')
    await change('knob-4', '1:cc85')
    const old = await page.driver.getWindowHandle()
    const fresh = await page.blankTab()
    await page.toTab(old)
    await page.closeTab(fresh)
    await page.go('/desk')
    await page.hasTag('knob-4', '1:cc85')
    await mayEdit()
  })
})

/** The demo with so many templates that it holds at least `count` assignments. */
function grown(count: number): Rig {
  const rig = structuredClone(AS_PERFORMED)
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

it('a large rig of 10,000 assignments is imported and worked on', async () => {
  await page.open('/desk')
  await page.importFile('grown.json', writeRig(grown(10_000)))
  await named('Grown')
  await page.click('[data-control="knob-1"]')
  await page.type(FIELD, '1:cc16', Key.ENTER)
  await page.find('aside [data-rule=same-address]')
  expect(await page.attribute('[data-control="knob-1"]', 'data-severity')).toBe('error')
})
