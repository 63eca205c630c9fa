import type { Page } from './page'

export const SURFACE = '[data-testid=bench-surface]'
export const control = (id: string): string => `${SURFACE} [data-control="${id}"]`

/** Open the Bench with a script that stands for the browser's own MIDI ports. */
export async function openBench(page: Page): Promise<void> {
  await page.go('/bench')
  await page.find(SURFACE)
}

/** How high a control stands, in percent of its way. */
export const stands = async (page: Page, id: string): Promise<number> =>
  Number(/(\d+) percent/.exec((await page.attribute(control(id), 'aria-label')) ?? '')?.[1] ?? -1)

/** Press a control and let it go. */
export async function touch(page: Page, id: string): Promise<void> {
  const { x, y } = await page.middleOf(control(id))
  await page.driver.actions().move({ x, y, duration: 0 }).press().pause(50).release().perform()
}

/** Move a control upwards by so many px. */
export const dragUp = (page: Page, id: string, px: number): Promise<void> =>
  page.drag(control(id), [{ x: 0, y: -px }], 300)
