import axe from '@axe-core/webdriverjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=findings-count]')
})
afterAll(() => page.quit())

const Builder = (axe as unknown as { default?: typeof axe }).default ?? axe

async function violations(): Promise<string[]> {
  const { violations: found } = await new Builder(page.driver as never)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'])
    .analyze()
  return found.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 140)).join(' | ')}`)
}

describe.each(['vellum', 'night'])('in the %s theme', (theme) => {
  beforeAll(async () => {
    await page.driver.executeScript(`localStorage.setItem('deft-lattice/theme', arguments[0])`, theme)
  })

  it('the Desk has no accessibility violation, with a control in trouble selected', async () => {
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
    await page.click('[data-control="enc-5"]')
    await page.find('aside [data-finding] [data-fix]')
    expect(await violations()).toEqual([])
  })

  it('nor the findings, nor joining to a parameter', async () => {
    await page.click('[data-testid=join]')
    await page.find('[data-testid=join-picker] [data-parameter]')
    expect(await violations()).toEqual([])
    await page.click('[data-testid=findings-count]')
    await page.find('[data-testid=findings] [data-fix]')
    expect(await violations()).toEqual([])
  })

  it('nor a sheet, nor a view that is not built yet', async () => {
    await page.go('/sheets')
    await page.find('[data-testid=sheet]')
    expect(await violations()).toEqual([])
    await page.go('/bench')
    await page.find('main h2')
    expect(await violations()).toEqual([])
  })
})
