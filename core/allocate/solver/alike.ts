import { liftedTakes } from './lift'
import { costsNothing, type Problem, type Shape, type Term } from './problem'
import { contestedIn } from './reduce'
import { sameSets } from './same-sets'

/** How a candidate is had, wherever it is: what most candidates of its item take as well, and what it costs of each term. */
export interface Manner {
  also: readonly number[]
  costs: readonly number[]
}

/** Something that an item may have: a place, which is what it takes beside, and the manner in which it has it. */
export interface Option {
  place: number
  manner: number
}

/** Items that have the same options. */
export interface Alike {
  items: readonly number[]
  options: readonly Option[]
}

/** A problem as far as some terms go, in which alike items are not told apart. */
export interface Merged {
  groups: readonly Alike[]
  /** What each place takes of that which several items could take. */
  places: ReadonlyArray<readonly number[]>
  manners: readonly Manner[]
  /** Those of a problem’s items that can do with nothing at no cost, whatever the others have. */
  content: readonly number[]
  /** The candidates by which an item has an option. */
  candidatesFor: (item: number, option: Option) => number[]
}

/**
 * Put together what is alike as far as some terms go. Where an item could go matters by what it takes there and what that costs
 * only, so that of two thousand items a few hundred kinds are left.
 *
 * @param terms Those that count, none of them breaks.
 */
export function merged(problem: Problem, terms: readonly Term[]): Merged {
  const { items, resources } = problem
  const canDoWithout = new Set([...new Set(items)].filter((shape) => isContent(shape, terms)))
  const members = new Map<Shape, number[]>()
  const content: number[] = []
  items.forEach((shape, item) => {
    if (canDoWithout.has(shape)) content.push(item)
    else if (!members.get(shape)?.push(item)) members.set(shape, [item])
  })
  const contested = contestedIn({ items: [...members].flatMap(twice), chains: [], resources })
  const commonTo = commonFinder(contested)
  const { placeOf, places } = placesOver(resources, contested)
  const { mannersOf, manners } = mannersFor(terms)
  const { optionOf, options } = optionNumbers()
  const optionsOf = new Map<Shape, Int32Array>()
  const { numberOf, sets } = sameSets()
  const itemsOf: number[][] = []
  for (const [shape, own] of members) {
    const common = commonTo(shape)
    const numbers = numbersOf(shape, common, placeOf, mannersOf(shape, common), optionOf)
    optionsOf.set(shape, numbers)
    ;(itemsOf[numberOf(numbers)] ??= []).push(...own)
  }
  return {
    groups: itemsOf.map((own, group) => ({
      items: own.toSorted((a, b) => a - b),
      options: (sets[group] ?? []).flatMap((number) => options[number] ?? []),
    })),
    places,
    manners,
    content,
    candidatesFor: (item, { place, manner }) => {
      const shape = items[item]
      const numbers = (shape && optionsOf.get(shape)) ?? NOTHING
      const number = optionOf(place, manner)
      const found: number[] = []
      for (let at = numbers.indexOf(number); at >= 0; at = numbers.indexOf(number, at + 1)) found.push(at)
      return found
    },
  }
}

/**
 * The same, in which places also take what could not be had beside them (see `lift.ts`). What the manners take is looked at for
 * that, as it is taken beside a place.
 */
export function liftedAlike(all: Merged, resources: number): Merged {
  const taken = [...all.places, ...all.manners.map(({ also }) => also)]
  const takes = taken.map((own) => Int32Array.from(own))
  const [lifted] = liftedTakes([{ takes, isExclusive: false }], resources)
  return { ...all, places: all.places.map((own, place) => [...(lifted?.takes[place] ?? own)]) }
}

const NOTHING = new Int32Array()

/** Is there a candidate that takes nothing and costs nothing? */
function isContent(shape: Shape, terms: readonly Term[]): boolean {
  const { takes } = shape
  for (let candidate = 0; candidate < takes.length; candidate++)
    if (takes[candidate]?.length === 0 && costsNothing(shape, candidate, terms)) return true
  return false
}

/** The options of candidates, by number. */
function numbersOf(
  { takes }: Shape,
  common: readonly number[],
  placeOf: (takes: Int32Array, common: readonly number[]) => number,
  mannerOf: (candidate: number) => number,
  optionOf: (place: number, manner: number) => number,
): Int32Array {
  const numbers = new Int32Array(takes.length)
  for (let candidate = 0; candidate < numbers.length; candidate++)
    numbers[candidate] = optionOf(placeOf(takes[candidate] ?? NOTHING, common), mannerOf(candidate))
  return numbers
}

/** One shape for an item that is alone, two for more: what two could take is contested. */
const twice = ([shape, { length }]: [Shape, number[]]): Shape[] => (length > 1 ? [shape, shape] : [shape])

/**
 * Finds what is contested and more than half of the candidates of a shape take beside something else: it says nothing of where
 * they lie.
 */
function commonFinder(contested: Uint8Array): (shape: Shape) => readonly number[] {
  const counts = new Int32Array(contested.length)
  return ({ takes }) => {
    const common: number[] = []
    const half = Math.floor(takes.length / 2)
    const several = takes.filter(({ length }) => length > 1)
    if (several.length <= half) return common
    for (const own of several)
      for (let at = 0; at < own.length; at++) {
        const resource = own[at] ?? 0
        const count = (counts[resource] ?? 0) + 1
        counts[resource] = count
        if (count === half + 1 && contested[resource] === 1) common.push(resource)
      }
    for (const own of several) for (let at = 0; at < own.length; at++) counts[own[at] ?? 0] = 0
    return common
  }
}

/** Numbers places by what is contested of what they take and not common, whatever the order. */
function placesOver(
  resources: number,
  contested: Uint8Array,
): { placeOf: (takes: Int32Array, common: readonly number[]) => number; places: number[][] } {
  const places: number[][] = []
  const add = (takes: number[]): number => places.push(takes) - 1
  const none = add([])
  const single = new Int32Array(resources).fill(-1)
  const several = new Map<string, number>()
  return {
    places,
    placeOf: (takes, common) => {
      let first = -1
      let isAlone = true
      for (let at = 0; at < takes.length; at++) {
        const resource = takes[at] ?? 0
        if (contested[resource] !== 1 || resource === first || common.includes(resource)) continue
        if (first < 0) first = resource
        else isAlone = false
      }
      if (first < 0) return none
      if (isAlone) {
        const known = single[first] ?? -1
        return known >= 0 ? known : (single[first] = add([first]))
      }
      const isWanted = (resource: number): boolean => contested[resource] === 1 && !common.includes(resource)
      const rest = [...new Set(takes)].filter(isWanted).sort((a, b) => a - b)
      const key = rest.join()
      const known = several.get(key) ?? add(rest)
      several.set(key, known)
      return known
    },
  }
}

/** Numbers the manners in which candidates of shapes are had; neighbours mostly have the same. */
function mannersFor(terms: readonly Term[]): {
  mannersOf: (shape: Shape, common: readonly number[]) => (candidate: number) => number
  manners: Manner[]
} {
  const manners: Manner[] = []
  const numbers = new Map<string, number>()
  const numberOf = (manner: Manner): number => {
    const key = `${manner.also.join()} ${manner.costs.join()}`
    const known = numbers.get(key) ?? manners.push(manner) - 1
    numbers.set(key, known)
    return known
  }
  return {
    manners,
    mannersOf: ({ costs, takes }, common) => {
      const columns = terms.map((term) => (term === 'breaks' ? NOTHING : costs[term]))
      let last = -1
      const isAsBefore = (candidate: number): boolean =>
        last >= 0 && columns.every((column) => column[candidate] === column[candidate - 1])
      return (candidate) => {
        if (common.length === 0 && isAsBefore(candidate)) return last
        last = numberOf({
          also: common.filter((resource) => takes[candidate]?.includes(resource)),
          costs: columns.map((column) => column[candidate] ?? 0),
        })
        return last
      }
    },
  }
}

/** Numbers options, by manner and place. */
function optionNumbers(): { optionOf: (place: number, manner: number) => number; options: Option[] } {
  const options: Option[] = []
  const byManner: number[][] = []
  return {
    options,
    optionOf: (place, manner) => {
      const own = (byManner[manner] ??= [])
      while (own.length <= place) own.push(-1)
      const known = own[place] ?? -1
      return known >= 0 ? known : (own[place] = options.push({ place, manner }) - 1)
    },
  }
}
