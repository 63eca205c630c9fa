import type { PaletteEntry } from '../rig'
import { apart, type Hex } from './colour'
import { bitsOf, both, countBoth, drop, firstOf, forEach, without, type Bits } from './bits'
import { nearestEntry } from './resolve'

/** What colours are wanted for: so many dark ones and so many bright ones, on these palettes. */
export interface ChooseWanted {
  /** Colours to choose among, dark and bright; one colour may stand in both. */
  dark: readonly Hex[]
  bright: readonly Hex[]
  darkCount: number
  brightCount: number
  /** The palettes of the lights that show them: two colours are as far apart as on the light where they are nearest. */
  palettes: ReadonlyArray<readonly PaletteEntry[]>
  /** Search steps at most; the best found by then is given, with its bound. */
  steps?: number
}

export interface Chosen {
  dark: readonly Hex[]
  bright: readonly Hex[]
  /** The smallest difference between any two of them, on any of the lights. */
  smallest: number
  /** No choice can have a smallest difference above this; equal to `smallest` where the choice is proven best. */
  bound: number
}

const DEFAULT_STEPS = 1_000_000
/** A single question takes this part of the steps that are left at most. */
const SHARE = 6

interface Candidate {
  colour: Hex
  isDark: boolean
}

/** How far apart candidates are, on the light where they are nearest. */
function distances(candidates: readonly Candidate[], palettes: ChooseWanted['palettes']): Float64Array {
  const { length } = candidates
  const shown = palettes.map((entries) =>
    candidates.map(({ colour }) => nearestEntry(colour, entries)?.entry.colour ?? colour),
  )
  const lights = shown.length > 0 ? shown : [candidates.map(({ colour }) => colour)]
  const all = new Float64Array(length * length)
  for (let a = 0; a < length; a++) {
    for (let b = a + 1; b < length; b++) {
      let least = Infinity
      for (const colours of lights) least = Math.min(least, apart(colours[a] ?? '', colours[b] ?? ''))
      all[a * length + b] = least
      all[b * length + a] = least
    }
  }
  return all
}

interface Search {
  size: number
  /** For each candidate, those at least the wanted distance away. */
  far: readonly Bits[]
  isDark: Bits
  budget: { left: number }
}

/** How many of a set can go together at most: sets of which no two are far apart hold one each. */
function mostOf({ far, size }: Search, open: Bits): number {
  let groups = 0
  const rest = open.slice()
  for (let first = firstOf(rest); first < size; first = firstOf(rest)) {
    groups++
    const near = rest.slice()
    for (let each = first; each < size; each = firstOf(near)) {
      drop(near, each)
      drop(rest, each)
      without(near, far[each])
    }
  }
  return groups
}

/**
 * Candidates that are all far apart, `dark` and `bright` of them more than are chosen; null if there are none,
 * undefined if the steps ran out.
 */
function together(
  search: Search,
  chosen: readonly number[],
  open: Bits,
  dark: number,
  bright: number,
): readonly number[] | null | undefined {
  if (dark === 0 && bright === 0) return chosen
  if (search.budget.left-- <= 0) return undefined
  const darkOnes = both(open, search.isDark)
  const brightOnes = without(open.slice(), search.isDark)
  const [mostDark, mostBright] = [
    dark === 0 ? 0 : mostOf(search, darkOnes),
    bright === 0 ? 0 : mostOf(search, brightOnes),
  ]
  if (mostDark < dark || mostBright < bright) return null
  const usable = dark === 0 ? brightOnes : bright === 0 ? darkOnes : open
  if (dark > 0 && bright > 0 && mostOf(search, usable) < dark + bright) return null
  // Branch on the sort that has least to spare, and there on the candidate that keeps most others possible.
  const isDarkNext = bright === 0 || (dark > 0 && mostDark - dark <= mostBright - bright)
  const own = isDarkNext ? darkOnes : brightOnes
  let [pivot, most] = [-1, -1]
  forEach(own, search.size, (each) => {
    const beside = countBoth(usable, search.far[each])
    if (beside > most) [pivot, most] = [each, beside]
  })
  if (pivot < 0) return null
  // Either the pivot is in, or one of those that it keeps out is.
  const branches = [pivot]
  const keptOut = without(own.slice(), search.far[pivot])
  forEach(keptOut, search.size, (each) => {
    if (each !== pivot) branches.push(each)
  })
  const rest = usable.slice()
  let ranOut = false
  for (const each of branches) {
    const next = both(rest, search.far[each])
    const found = together(
      search,
      [...chosen, each],
      next,
      isDarkNext ? dark - 1 : dark,
      isDarkNext ? bright : bright - 1,
    )
    if (found) return found
    if (found === undefined) ranOut = true
    if (search.budget.left <= 0) return undefined
    drop(rest, each)
  }
  return ranOut ? undefined : null
}

/** A choice made greedily: each time what is farthest from all that is chosen. */
function greedy(
  candidates: readonly Candidate[],
  all: Float64Array,
  darkCount: number,
  brightCount: number,
): number[] {
  const { length } = candidates
  let best: number[] = []
  let bestSmallest = -1
  for (let start = 0; start < length; start++) {
    const chosen = [start]
    const left = { true: darkCount, false: brightCount }
    left[`${candidates[start]?.isDark ?? false}`]--
    if (left.true < 0 || left.false < 0) continue
    let smallest = Infinity
    while (left.true + left.false > 0) {
      let [next, far] = [-1, -1]
      for (let each = 0; each < length; each++) {
        if (left[`${candidates[each]?.isDark ?? false}`] <= 0 || chosen.includes(each)) continue
        const near = Math.min(...chosen.map((other) => all[each * length + other] ?? 0))
        if (near > far) [next, far] = [each, near]
      }
      if (next < 0) break
      smallest = Math.min(smallest, far)
      chosen.push(next)
      left[`${candidates[next]?.isDark ?? false}`]--
    }
    if (left.true + left.false === 0 && smallest > bestSmallest) [best, bestSmallest] = [chosen, smallest]
  }
  return best
}

/**
 * Choose colours so that the smallest difference between any two, on every light that shows them, is as large
 * as possible. Proven best unless the steps run out; then the bound says how much better it could be. Throws a
 * RangeError where fewer colours are there than are wanted.
 */
export function chooseColours({
  dark,
  bright,
  darkCount,
  brightCount,
  palettes,
  steps = DEFAULT_STEPS,
}: ChooseWanted): Chosen {
  const candidates: Candidate[] = [
    ...[...new Set(dark)].map((colour) => ({ colour, isDark: true })),
    ...[...new Set(bright)].map((colour) => ({ colour, isDark: false })),
  ]
  const count = (isDark: boolean): number => candidates.filter((each) => each.isDark === isDark).length
  if (count(true) < darkCount || count(false) < brightCount)
    throw new RangeError(
      `There are ${count(true)} dark and ${count(false)} bright colours, and ${darkCount} and ${brightCount} are wanted.`,
    )
  const { length } = candidates
  const all = distances(candidates, palettes)
  const smallestOf = (chosen: readonly number[]): number =>
    chosen.reduce(
      (least, a, index) =>
        chosen.slice(index + 1).reduce((near, b) => Math.min(near, all[a * length + b] ?? 0), least),
      Infinity,
    )
  const aloneOn = (entries: readonly PaletteEntry[]): number =>
    chooseColours({ dark, bright, darkCount, brightCount, palettes: [entries], steps: steps / SHARE }).bound
  let best = greedy(candidates, all, darkCount, brightCount)
  let smallest = smallestOf(best)
  const isDark = bitsOf(length, (each) => candidates[each]?.isDark ?? false)
  let left = steps
  // On all lights together they cannot be farther apart than on the one where that is hardest.
  const most = palettes.length < 2 ? Infinity : Math.min(...palettes.map(aloneOn))
  // Only differences that occur can be the smallest: search among those above what is found.
  const above = [...new Set(all)].filter((each) => each > smallest && each <= most).sort((a, b) => a - b)
  let low = 0
  /** From here on it is proven that there is none; from `tried` on there was none within the steps. */
  let proven = above.length
  let tried = above.length
  while (low < proven && left > 0) {
    const isLast = low >= tried
    const at = isLast ? low : (low + tried) >> 1
    const wanted = above[at] ?? Infinity
    const far = candidates.map((_, a) =>
      bitsOf(length, (b) => a !== b && (all[a * length + b] ?? 0) >= wanted),
    )
    const given = isLast ? left : Math.ceil(left / SHARE)
    const budget = { left: given }
    const everything = bitsOf(length, () => true)
    const found = together({ size: length, far, isDark, budget }, [], everything, darkCount, brightCount)
    left -= given - Math.max(0, budget.left)
    if (found) {
      best = [...found]
      smallest = smallestOf(best)
      const next = above.findIndex((each) => each > smallest)
      low = next < 0 ? above.length : next
      tried = Math.max(tried, low)
    } else {
      tried = Math.min(tried, at)
      if (found === null) proven = Math.min(proven, at)
      else if (isLast) break
    }
  }
  return finished(candidates, best, smallest, low < proven ? (above[proven - 1] ?? smallest) : smallest)
}

function finished(
  candidates: readonly Candidate[],
  best: readonly number[],
  smallest: number,
  bound: number,
): Chosen {
  const of = (isDark: boolean): Hex[] =>
    best.flatMap((each) => {
      const candidate = candidates[each]
      return candidate?.isDark === isDark ? [candidate.colour] : []
    })
  return { dark: of(true), bright: of(false), smallest, bound }
}
