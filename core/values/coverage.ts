import { valueFrom } from './response'
import { stepSize, type MappedRange } from './span'
import { valuesOf, type Travel } from './travel'

/** How far a control brings a parameter. */
export interface Ends {
  /** The lowest and highest value it brings the parameter to. */
  lowest: number
  highest: number
  reachesLow: boolean
  reachesHigh: boolean
}

/** What of a parameter a control can reach. */
export interface Coverage extends Ends {
  /** The smallest and largest change that one step of the control makes; null if it makes none. */
  smallestStep: number | null
  largestStep: number | null
  /** Values of the parameter between the mapping's ends that it never takes; null where it has no steps. */
  missed: { count: number; of: number; first: readonly number[] } | null
}

const NAMED = 3
/** Less than this is the rounding of the machine, not of the parameter. */
const TINY = 1e-9

function endsWithin(range: MappedRange, lowest: number, highest: number): Ends {
  // A parameter with steps is at its end when no step lies between.
  const near = (stepSize(range.span) ?? 0) / 2 + TINY
  return {
    lowest,
    highest,
    reachesLow: lowest - range.min <= near,
    reachesHigh: range.max - highest <= near,
  }
}

/** How far a sweep brings its parameter: as a mapping only rises or falls, its two ends tell. */
export function endsOf(travel: Extract<Travel, { kind: 'sweep' }>, range: MappedRange): Ends {
  const [a, b] = [travel.at(0), travel.at(travel.count - 1)].map((sent) =>
    valueFrom(range, sent, travel.top),
  ) as [number, number]
  return endsWithin(range, Math.min(a, b), Math.max(a, b))
}

/** What a control that sweeps, or sends a few values, reaches of what its mapping moves through. */
export function coverageOf(
  travel: Extract<Travel, { kind: 'sweep' | 'points' }>,
  range: MappedRange,
): Coverage {
  const sent = travel.kind === 'sweep' ? valuesOf(travel) : travel.values
  const values = sent.map((value) => valueFrom(range, value, travel.top))
  let [lowest, highest] = [Infinity, -Infinity]
  let [smallest, largest] = [Infinity, 0]
  values.forEach((value, index) => {
    lowest = Math.min(lowest, value)
    highest = Math.max(highest, value)
    const change = Math.abs(value - (values[index - 1] ?? value))
    if (change <= TINY) return
    smallest = Math.min(smallest, change)
    largest = Math.max(largest, change)
  })
  return {
    ...endsWithin(range, lowest, highest),
    smallestStep: smallest === Infinity ? null : smallest,
    largestStep: largest === 0 ? null : largest,
    missed: missedOf(values, range),
  }
}

function missedOf(values: readonly number[], { span, min, max }: MappedRange): Coverage['missed'] {
  const step = stepSize(span)
  if (step === null || span.count === null) return null
  const index = (value: number): number => Math.round((value - span.min) / step)
  const reached = new Set(values.map(index))
  const [from, to] = [Math.ceil((min - span.min) / step - TINY), Math.floor((max - span.min) / step + TINY)]
  const missed: number[] = []
  for (let each = from; each <= to; each++) if (!reached.has(each)) missed.push(span.min + each * step)
  return { count: missed.length, of: Math.max(0, to - from + 1), first: missed.slice(0, NAMED) }
}
