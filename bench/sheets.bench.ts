import { describe, expect, it } from 'vitest'
import { startPage } from '../e2e/support/page'
import { AS_PERFORMED } from '../e2e/support/rigs'
import { SHEET_FORMATS, sheetsOf } from '../core/sheets'
import { testDestination, testRig } from '../core/testing/rigs'
import { nodeTools } from '../shared/sheets/node-tools'
import { writeSheet } from '../shared/sheets/write'

/** The page counts its frames while the book is written: how long that takes, and the longest it is not painted. */
const WRITE_BOOK = `
  const done = arguments[arguments.length - 1]
  const button = document.querySelector('[data-export=pdf]')
  let last = performance.now(), longest = 0, isOver = false
  const frame = (now) => { longest = Math.max(longest, now - last); last = now; if (!isOver) requestAnimationFrame(frame) }
  requestAnimationFrame((now) => {
    last = now
    requestAnimationFrame(frame)
    const from = performance.now()
    button.click()
    const look = () => {
      if (button.disabled) return setTimeout(look, 5)
      isOver = true
      done({ ms: performance.now() - from, longest })
    }
    setTimeout(look, 30)
  })
`

describe('sheets', () => {
  it('the book of the demo as PDF, in a worker, the page responsive', async () => {
    const page = await startPage()
    try {
      await page.go('/desk')
      await page.open('/desk', AS_PERFORMED)
      await page.press('Sheets')
      await page.click('[data-sheet=book]')
      await page.find('[data-testid=book]')
      await page.driver.manage().setTimeouts({ script: 120_000 })
      const runs: Array<{ ms: number; longest: number }> = []
      for (let turn = 0; turn < 5; turn++) runs.push(await page.runAsync(WRITE_BOOK))
      const [first, ...others] = runs
      const best = Math.min(...others.map(({ ms }) => ms))
      const longest = Math.max(...others.map(({ longest: each }) => each))
      console.log(
        `The book of the demo: ${Math.round(first?.ms ?? 0)} ms with the package to be loaded, then ${others.map(({ ms }) => Math.round(ms)).join(', ')} ms (at most 2000 wanted); the page was never longer than ${Math.round(longest)} ms without a frame.`,
      )
      expect(best).toBeGreaterThan(0)
    } finally {
      await page.end()
    }
  })

  it('a destination of 5,000 parameters in every format', async () => {
    const parameters = Array.from({ length: 5000 }, (_, index) => ({
      id: `p${index}`,
      name: `Parameter ${index}`,
      path: [`Group ${Math.floor(index / 50)}`],
      range: { min: 0, max: 127 },
    }))
    const rig = testRig([], [testDestination('d', { parameters })])
    const sheet = sheetsOf(rig)
      .flatMap(({ sheets }) => sheets)
      .find(({ id }) => id === 'map d')
    if (!sheet) throw new Error('no map')
    for (const format of SHEET_FORMATS) {
      const before = process.memoryUsage().rss
      let most = before
      const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20)
      const from = performance.now()
      const bytes = await writeSheet(sheet.make(), format, '', nodeTools)
      clearInterval(watch)
      most = Math.max(most, process.memoryUsage().rss)
      console.log(
        `${format.name}: ${Math.round(performance.now() - from)} ms, ${Math.round(bytes.length / 1024)} kB, ${Math.round((most - before) / 1048576)} MB more while it was written.`,
      )
      expect(bytes.length).toBeGreaterThan(0)
    }
  })
})
