import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { writeRig } from '../core/rig'
import { renamed } from '../core/testing/named-rigs'
import { nineRingsRig } from '../demo'
import { importText, startSession, type Session } from './browser'

/** Names as long as they may be, with blanks, without, and in letters that are each as wide as high. */
const LONG = [
  'An unusually long name that a player gave it in a hurry before the last show of the year',
  'x'.repeat(120),
  '鍵盤の右手で回すつまみの音量を調整するためのもの'.repeat(2),
]

let page: Session
beforeAll(async () => {
  let at = 0
  const rig = renamed(nineRingsRig('as-found'), () => LONG[at++ % LONG.length] ?? '')
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await importText(page, 'long.json', writeRig(rig))
  await page.waitFor('the long names', async () =>
    (await page.text('[role=tablist]')).includes('x'.repeat(120)),
  )
})
afterAll(() => page.quit())

/** Pairs of names of controls that are written over each other. */
const overlapping = (css: string): Promise<string[]> =>
  page.driver.executeScript(
    `const boxes = [...document.querySelectorAll(arguments[0])].map((each) => [each.textContent.trim(), each.getBoundingClientRect()])
     return boxes.flatMap(([name, a], at) => boxes.slice(at + 1)
       .filter(([, b]) => a.left < b.right - 2 && b.left < a.right - 2 && a.top < b.bottom - 4 && b.top < a.bottom - 4)
       .map(([other]) => name + ' / ' + other))`,
    css,
  )
/** Parts of the page that can be moved sideways, but for tabs, of which there may be any number. */
const sideways = (): Promise<string[]> =>
  page.driver.executeScript(
    `return [...document.querySelectorAll('*')]
       .filter((each) => each.getAttribute('role') !== 'tablist' && each.clientWidth > 0)
       .filter((each) => each.scrollWidth > each.clientWidth + 1)
       .filter((each) => /auto|scroll/.test(getComputedStyle(each).overflowX))
       .map((each) => each.outerHTML.slice(0, 120))`,
  )

describe('names as long as they may be', () => {
  it('are cut on the Desk and its tabs', async () => {
    await expect.poll(() => page.count('[data-testid=surface] .label')).toBeGreaterThan(30)
    expect(await overlapping('[data-testid=surface] .label')).toEqual([])
    expect(await sideways()).toEqual([])
  })
  it('are broken in the sentences of findings and of a plan', async () => {
    await page.click('[data-testid=findings-count]')
    await page.find('[data-finding]')
    expect(await sideways()).toEqual([])
    await page.press('Plan a repair')
    await page.waitFor('the plan', async () =>
      (await page.text('[data-testid=plan-result]')).includes('What it cures'),
    )
    expect(await sideways()).toEqual([])
  })
  it('are cut on the Bench', async () => {
    await page.press('Bench')
    await page.find('[data-testid=bench-surface] .label')
    await expect.poll(() => page.count('[data-testid=bench-surface] .label')).toBeGreaterThan(30)
    expect(await overlapping('[data-testid=bench-surface] .label')).toEqual([])
    expect(await sideways()).toEqual([])
  })
})
