/** A search for the ends of a mapping that make every step of a control a whole number of units. */
export interface WholeStepsWanted {
  /** What one step moves, as a share of the mapped range: 1/127 for a 7-bit control, a step rule's fraction for clicks. */
  share: number
  /** Units that a step shall move. */
  units: number
  /** What the mapping has to take in, in the parameter's own unit. */
  low: number
  high: number
  /** The parameter's own ends. */
  min: number
  max: number
}

export interface WholeRange {
  min: number
  max: number
}

/** The ranges that make whole steps: from the lowest start to the highest, `units` apart; or why there is none. */
export type WholeSteps =
  | {
      kind: 'found'
      width: number
      lowest: WholeRange
      highest: WholeRange
      middle: WholeRange
      count: number
    }
  /** So many units a step cover only `width`; `try` is the smallest number of units that covers it. */
  | { kind: 'too-narrow'; width: number; try: number }
  /** A range that wide leaves the parameter's ends. */
  | { kind: 'too-wide'; width: number; room: number }
  /** It fits in width, but no whole start takes in all that is wanted. */
  | { kind: 'no-place'; width: number }

const TINY = 1e-9

/**
 * Every range of a parameter in which one step of a control moves it by exactly `units`. A step is `share` of
 * the range, so the range must be units / share wide; it starts a whole number of steps from `low`, so that
 * `low` is one of the values. Throws a RangeError if low is not below high, or units or share are not above 0.
 */
export function wholeSteps({ share, units, low, high, min, max }: WholeStepsWanted): WholeSteps {
  if (!(low < high)) throw new RangeError('The lower end must be below the upper end.')
  if (!(units > 0) || !(share > 0)) throw new RangeError('Units and share must be above 0.')
  const width = units / share
  const room = max - min
  if (width < high - low - TINY)
    return { kind: 'too-narrow', width, try: Math.ceil((high - low) * share - TINY) }
  if (width > room + TINY) return { kind: 'too-wide', width, room }
  const stepsBelow = Math.min(width - (high - low), low - min)
  const stepsFloor = Math.max(0, low - (max - width))
  const first = Math.floor(stepsBelow / units + TINY)
  const last = Math.ceil(stepsFloor / units - TINY)
  if (first < last) return { kind: 'no-place', width }
  const at = (steps: number): WholeRange => ({ min: low - steps * units, max: low - steps * units + width })
  const centred = (width - (high - low)) / 2 / units
  const middle = Math.min(first, Math.max(last, Math.round(centred)))
  return {
    kind: 'found',
    width,
    lowest: at(first),
    highest: at(last),
    middle: at(middle),
    count: first - last + 1,
  }
}

/** What steps of a chosen range really do to a parameter that shows whole units. */
export interface RealSteps {
  /** How far one step moves, exactly. */
  each: number
  /** The values shown, step after step, from the lower end; the first few. */
  shown: readonly number[]
  /** Steps of a full sweep that change nothing that is shown. */
  still: number
  /** Whole units between the ends that are never shown. */
  skipped: number
}

const SHOWN = 8

/** What a range steps by: `share` of it each time, shown in whole `units` of the parameter. */
export function realSteps(range: WholeRange, share: number, units: number): RealSteps {
  const each = (range.max - range.min) * share
  const steps = Math.round(1 / share)
  const shownAt = (index: number): number => Math.round((range.min + index * each) / units + TINY) * units
  const seen = new Set<number>()
  let still = 0
  for (let index = 0; index <= steps; index++) {
    const value = shownAt(index)
    if (index > 0 && value === shownAt(index - 1)) still++
    seen.add(value)
  }
  const whole = Math.floor(range.max / units + TINY) - Math.ceil(range.min / units - TINY) + 1
  const within = [...seen].filter((value) => value >= range.min - TINY && value <= range.max + TINY).length
  return {
    each,
    shown: Array.from({ length: Math.min(SHOWN, steps + 1) }, (_, index) => shownAt(index)),
    still,
    skipped: Math.max(0, whole - within),
  }
}
