import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { writeRig } from '../core/rig'
import { stressRig } from '../core/testing/stress-rig'
import { By, startPage, type Page } from '../e2e/support/page'
import { measure, ONE_WORD, type Measured } from './desk-work'

const TIMES = 60

/** Pinning and unpinning the control at hand: the edit, and all that shows it, in the frame it falls in. */
async function measureEdit(page: Page, name: string, control: string): Promise<Measured> {
  await page.click(`[data-control="${control}"]`)
  await page.find('[data-address-field]')
  return measure(page, {
    name,
    times: TIMES,
    script: `[...document.querySelectorAll('aside button')].find((b) => b.textContent.trim() === 'pinned').click()`,
  })
}

/** Give the application's own import a file by its path: a hundred megabytes do not go through a script. */
async function importPath(page: Page, path: string): Promise<void> {
  await page.run(`
    const click = HTMLInputElement.prototype.click
    HTMLInputElement.prototype.click = function () {
      if (this.type === 'file') document.body.append(this)
      else click.call(this)
    }`)
  await page.click('[data-testid=rig-menu]')
  await page.press('Import a file')
  await (await page.driver.findElement(By.css('input[type=file]'))).sendKeys(path)
}

it('one edit, to painted, on the demo rig and on the stress rig', async () => {
  const page = await startPage()
  const folder = mkdtempSync(join(tmpdir(), 'deft-stress-'))
  try {
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
    const found = [
      await measure(page, ONE_WORD),
      await measureEdit(page, 'demo rig (figure: 16 ms)', 'knob-1'),
    ]
    const file = join(folder, 'stress.json')
    writeFileSync(file, writeRig(stressRig()))
    await importPath(page, file)
    await page.find('[data-control=k97]')
    await page.waitFor('its findings', async () =>
      /\d{3,} findings/.test(await page.text('[data-testid=findings-count]')),
    )
    found.push(await measureEdit(page, 'stress rig (figure: 33 ms)', 'k7'))
    expect(found).toHaveLength(3)
    console.log(
      [
        'Edit to painted, work of one frame:',
        ...found.map(
          ({ name, median, p95 }) =>
            `  ${name.padEnd(34)} median ${median.toFixed(1).padStart(6)} ms, 95th percentile ${p95.toFixed(1).padStart(6)} ms`,
        ),
      ].join('\n'),
    )
  } finally {
    await page.end()
    rmSync(folder, { recursive: true, force: true })
  }
})
