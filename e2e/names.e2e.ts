import { expect, it } from 'vitest'
import { renamed } from '../core/testing/named-rigs'
import { usePage } from './support/page'
import { AS_FOUND } from './support/rigs'

/** Names as long as they may be, with blanks, without, and in letters that are each as wide as high. */
const LONG = [
  'An unusually long name that a player gave it in a hurry before the last show of the year',
  'x'.repeat(120),
  '鍵盤の右手で回すつまみの音量を調整するためのもの'.repeat(2),
]

const page = usePage()

/** Pairs of names of controls that are written over each other. */
const overlapping = (css: string): Promise<string[]> =>
  page.run(
    `const boxes = [...document.querySelectorAll(arguments[0])].map((each) => [each.textContent.trim(), each.getBoundingClientRect()])
     return boxes.flatMap(([name, a], at) => boxes.slice(at + 1)
       .filter(([, b]) => a.left < b.right - 2 && b.left < a.right - 2 && a.top < b.bottom - 4 && b.top < a.bottom - 4)
       .map(([other]) => name + ' / ' + other))`,
    css,
  )
/** Parts of the page that can be moved sideways, but for tabs, of which there may be any number. */
const sideways = (): Promise<string[]> =>
  page.run(
    `return [...document.querySelectorAll('*')]
       .filter((each) => each.getAttribute('role') !== 'tablist' && each.clientWidth > 0)
       .filter((each) => each.scrollWidth > each.clientWidth + 1)
       .filter((each) => /auto|scroll/.test(getComputedStyle(each).overflowX))
       .map((each) => each.outerHTML.slice(0, 120))`,
  )
async function expectLabelsApart(surface: string): Promise<void> {
  await expect.poll(() => page.count(`${surface} .label`)).toBeGreaterThan(30)
  expect(await overlapping(`${surface} .label`)).toEqual([])
  expect(await sideways()).toEqual([])
}

it('names as long as they may be are cut on surfaces, and broken in sentences of findings and plans', async () => {
  let at = 0
  await page.open(
    '/desk',
    renamed(AS_FOUND, () => LONG[at++ % LONG.length] ?? ''),
  )
  await page.says('[role=tablist]', 'x'.repeat(120))
  await expectLabelsApart('[data-testid=surface]')
  await page.click('[data-testid=findings-count]')
  await page.find('[data-finding]')
  expect(await sideways()).toEqual([])
  await page.press('Plan a repair')
  await page.says('[data-testid=plan-result]', 'What it cures')
  expect(await sideways()).toEqual([])
  await page.press('Bench')
  await expectLabelsApart('[data-testid=bench-surface]')
})
