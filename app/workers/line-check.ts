import { lineCheck, type LineCheck, type LineReport, type Listened } from '#core/bench/line-check'
import type { GestureKey } from '#core/rig'

/** One message that came, in ms. */
export interface Came {
  bytes: readonly number[]
  at: number
}

/** Checking a line as the page sees it. */
export interface LineChecker {
  begin: (listened: Listened) => LineReport
  hear: (came: readonly Came[]) => LineReport | null
  blame: (key: string, gesture: GestureKey | null) => LineReport | null
  miss: (gestures: readonly GestureKey[], isGone: boolean) => LineReport | null
}

/** Line checks, to be run in a worker: one at a time. */
export function createLineChecker(): LineChecker {
  let check: LineCheck | null = null
  return {
    begin: (listened) => {
      check = lineCheck(listened)
      return check.report()
    },
    hear: (came) => {
      for (const { bytes, at } of came) check?.hear(bytes, at)
      return check?.report() ?? null
    },
    blame: (key, gesture) => {
      check?.blame(key, gesture)
      return check?.report() ?? null
    },
    miss: (gestures, isGone) => {
      check?.miss(gestures, isGone)
      return check?.report() ?? null
    },
  }
}
