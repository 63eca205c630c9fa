import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { Key, Page } from './support/page'

/** `npm run faults` kills more often. */
const KILLS = Number(process.env.KILLS ?? 2)
const EDITS = 6

const profile = mkdtempSync(join(tmpdir(), 'deft-killed-'))
afterAll(() => rmSync(profile, { recursive: true, force: true, maxRetries: 3 }))

async function onDesk(): Promise<Page> {
  const page = new Page(false)
  await page.begin(profile)
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  return page
}

/** The number in the name of the open rig, and whether the page says that it is kept. */
const shown = (page: Page): Promise<{ edit: number; isKept: boolean }> =>
  page.run(`
    const menu = document.querySelector('[data-keep]')
    return {
      edit: Number(/Edit (\\d+)/.exec(menu.innerText)?.[1] ?? 0),
      isKept: menu.dataset.keep === 'kept',
    }`)

/** The names of the versions of the open rig, in History. */
async function versionsShown(page: Page, wanted: readonly string[]): Promise<void> {
  await page.press('History')
  for (const name of wanted) await page.says('[data-testid=history-line]', name)
}

it(`has all that it said was kept after the whole browser was killed amid edits, ${KILLS} times`, async () => {
  let kept = 0
  const versions: string[] = []
  for (let kill = 0; kill < KILLS; kill++) {
    const page = await onDesk()
    const found = await shown(page)
    expect(found.edit).toBeGreaterThanOrEqual(kept)
    const first = found.edit + 1
    await versionsShown(page, versions)
    const version = `Before kill ${kill}`
    await page.type('[data-testid=version-name]', version, Key.ENTER)
    versions.push(version)
    // It is listed as soon as it is kept, and not before.
    await versionsShown(page, versions)
    await page.click('[data-testid=rig-menu]')
    for (let edit = first; edit < first + EDITS; edit++) {
      await page.type('#rig-name', `Edit ${edit}`, Key.ENTER)
      const now = await shown(page)
      if (now.isKept) kept = Math.max(kept, now.edit)
    }
    // Every other time the browser is killed as soon as the page says that the last edit is kept.
    if (kill % 2 === 1) {
      await page.waitFor('the last edit to be kept', async () => (await shown(page)).isKept)
      kept = first + EDITS - 1
    }
    spawnSync('pkill', ['-9', '-f', profile])
    await page.end().catch((error: unknown) => expect(error).toBeInstanceOf(Error))
  }
  const page = await onDesk()
  expect((await shown(page)).edit).toBeGreaterThanOrEqual(kept)
  await versionsShown(page, versions)
  await page.end()
}, 3_600_000)
