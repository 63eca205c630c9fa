import { pointsOf, type Point } from './trail'
import type { Halves } from './types'

/** What two CC 32 apart are: one value in two halves, two controls, or not yet to be told. */
export type PairVerdict = 'pair' | 'apart' | 'open'

/** Halves of one value follow each other so closely, in ms. */
const TOGETHER_MS = 8
/** An MSB without an LSB for so long before and after it, in ms, moved alone. */
const ALONE_MS = 30
/** An LSB that is further from the one before has leapt. */
const LEAP = 32
const FEWEST = 8
/** With every new MSB the LSB begins anywhere: half of them leap. What moves by itself leaps hardly ever. */
const OFTEN = 0.25
/** More of them alone than this are more than LSBs are ever lost. */
const ALONE_SHARE = 0.5

/** The values of MSB and LSB, in `mark` and `value`: 0 for an MSB, 1 for an LSB. */
export const MSB_MARK = 0
export const LSB_MARK = 1

/** What is seen at every new MSB: whether its LSB leaps, and whether it has none. */
function turnsOf(points: readonly Point[], order: Order): { turns: number; leaps: number; alone: number } {
  const found = { turns: 0, leaps: 0, alone: 0 }
  const lsbs = points.filter(({ mark }) => mark === LSB_MARK)
  let next = 0
  let before: Point | null = null
  for (const point of points) {
    if (point.mark === LSB_MARK) {
      next++
      continue
    }
    const isNew = before !== null && before.value !== point.value
    before = point
    if (!isNew) continue
    const near = (at: number, ms: number): boolean => {
      const lsb = lsbs[at]
      return lsb !== undefined && Math.abs(lsb.at - point.at) <= ms
    }
    if (!near(next, ALONE_MS) && !near(next - 1, ALONE_MS)) found.alone++
    const own = order === 'msb-first' ? next : next - 1
    const [lsb, last] = [lsbs[own], lsbs[own - 1]]
    if (!lsb || !last || !near(own, TOGETHER_MS)) continue
    found.turns++
    if (Math.abs(lsb.value - last.value) > LEAP) found.leaps++
  }
  return found
}

/**
 * Are two CC 32 apart the halves of one value? Moved at an even speed, the halves go in even steps and look like two axes, so that
 * only an MSB which often moves alone shows that they are apart.
 */
export function pairVerdict(halves: Halves): PairVerdict {
  const { turns, leaps, alone } = turnsOf(pointsOf(halves.trail), orderOf(halves))
  if (alone >= FEWEST && alone > (alone + turns) * ALONE_SHARE) return 'apart'
  return turns >= FEWEST && leaps >= turns * OFTEN ? 'pair' : 'open'
}

type Order = 'msb-first' | 'lsb-first'

/** Which half comes first: that which the other follows more closely. */
export function orderOf({ trail }: Halves): Order {
  const gaps: Record<number, number[]> = { [MSB_MARK]: [], [LSB_MARK]: [] }
  const points = pointsOf(trail)
  points.forEach((point, index) => {
    const before = points[index - 1]
    if (before && before.mark !== point.mark) gaps[point.mark]?.push(point.at - before.at)
  })
  const mean = (all: readonly number[] = []): number => all.reduce((sum, gap) => sum + gap, 0) / all.length
  return mean(gaps[MSB_MARK]) < mean(gaps[LSB_MARK]) ? 'lsb-first' : 'msb-first'
}

/** The whole values, in the order in which their halves come; a half that stays is not sent again. */
export function wholeValues(halves: Halves): Point[] {
  const isLsbFirst = orderOf(halves) === 'lsb-first'
  let [msb, lsb, at] = [-1, 0, 0]
  let isOpen = false
  const whole: Point[] = []
  const end = (): void => {
    if (isOpen && msb >= 0) {
      const value = msb * 128 + lsb
      if (whole.at(-1)?.value !== value) whole.push({ at, value, mark: value })
    }
    isOpen = false
  }
  for (const point of pointsOf(halves.trail)) {
    const isMsb = point.mark === MSB_MARK
    const isLast = isMsb === isLsbFirst
    // The first half begins a value, the second ends it; a half that is late is a value of its own.
    if (!isLast || point.at - at > TOGETHER_MS) end()
    if (isMsb) msb = point.value
    else lsb = point.value
    at = point.at
    isOpen = true
    if (isLast) end()
  }
  end()
  return whole
}
