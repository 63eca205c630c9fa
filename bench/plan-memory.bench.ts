import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import { startPage } from '../e2e/support/page'
import { stressRig } from '../core/testing/stress-rig'

/** The memory of the largest process that runs a page, in MB; its workers are in it. */
function largestPage(): number {
  const sizes = readdirSync('/proc').flatMap((id) => {
    if (!/^\d+$/.test(id)) return []
    try {
      if (!readFileSync(`/proc/${id}/cmdline`, 'utf8').includes('--type=renderer')) return []
      return [Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) / 1024]
    } catch {
      // A process that has ended meanwhile has no size.
      return []
    }
  })
  return Math.max(0, ...sizes)
}

it('plan anew of 3,136 assignments in the browser: memory, and the first plan', async () => {
  const page = await startPage()
  try {
    await page.open('/desk', stressRig(2))
    await page.find('[data-testid=lattice]')
    const before = largestPage()
    await page.click('[data-testid=plan-open]')
    await page.press('Plan anew')
    const from = performance.now()
    const isDone = async (): Promise<boolean> =>
      (await page.count('[data-testid=plan-summary]')) === 1 &&
      (await page.count('[aria-busy=true] > [data-testid=plan-summary]')) === 0
    let [most, first, longest] = [before, 0, 0]
    while (performance.now() - from < 240_000) {
      const asked = performance.now()
      const isThere = (await page.count('[data-testid=plan-summary]')) === 1
      longest = Math.max(longest, performance.now() - asked)
      if (isThere && first === 0) first = performance.now() - from
      most = Math.max(most, largestPage())
      if (await isDone()) break
      await page.driver.sleep(200)
    }
    console.log(
      `3,136 assignments: first plan after ${(first / 1000).toFixed(1)} s, ${(await isDone()) ? 'the best' : 'still busy'} after ${((performance.now() - from) / 1000).toFixed(1)} s; the page takes ${Math.round(before)} MB before and ${Math.round(most)} MB at most; it answered within ${Math.round(longest)} ms`,
    )
    expect(most).toBeGreaterThan(0)
  } finally {
    await page.end()
  }
}, 400_000)
