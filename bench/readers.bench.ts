import { expect, it } from 'vitest'
import { HOSTILE_TEXTS } from '../core/testing/hostile-texts'
import { READERS } from '../core/testing/readers'

const RUNS = 3
/** Twice the size may take so many times as long. */
const MOST_RATIO = 3
/** Below so many ms nothing is compared. */
const LEAST_MS = 50

const timed = (work: () => void): number => {
  const start = performance.now()
  work()
  return performance.now() - start
}
const best = (work: () => void): number => Math.min(...Array.from({ length: RUNS }, () => timed(work)))

it('readers take as much longer as a text is longer', () => {
  for (const { what, format, text } of HOSTILE_TEXTS) {
    const count = format === 'rig' ? 400_000 : 90_000
    const [once, twice] = [text(count), text(count * 2)]
    const [short, long] = [best(() => READERS[format](once)), best(() => READERS[format](twice))]
    const ratio = long / Math.max(short, LEAST_MS)
    console.log(
      `${format.padEnd(5)} ${what.padEnd(24)} ${(once.length / 1e6).toFixed(1).padStart(5)} M characters ${short.toFixed(0).padStart(6)} ms, twice ${long.toFixed(0).padStart(6)} ms: ${ratio.toFixed(2)}`,
    )
    expect.soft(ratio, what).toBeLessThan(MOST_RATIO)
  }
})
