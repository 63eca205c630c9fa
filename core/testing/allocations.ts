import * as fc from 'fast-check'
import {
  comparePlaced,
  forOwnTerms,
  NOWHERE,
  OWN_TERMS,
  type Choice,
  type OwnTerm,
  type Problem,
  type Shape,
} from '../allocate/solver/problem'

export interface Drawn {
  /** Free numbers by channel, with their class rank. */
  channels: ReadonlyArray<ReadonlyArray<{ number: number; rank: number }>>
  chains: ReadonlyArray<{ length: number; isPair: boolean }>
  outside: readonly number[]
}

const NUMBERS = 128

/** A shape over free numbers: each takes itself, of a pair also the number `half` above. */
export function shapeOver(
  channels: Drawn['channels'],
  half: number | null,
  outside: ReadonlySet<number>,
): Shape {
  const free = new Set(
    channels.flatMap((list, channel) => list.map(({ number }) => channel * NUMBERS + number)),
  )
  const spots = channels
    .flatMap((list, channel) =>
      list.map(({ number, rank }) => ({ address: channel * NUMBERS + number, rank })),
    )
    .filter(({ address }) => half === null || (address % NUMBERS < half && free.has(address + half)))
    .toSorted((a, b) => a.address - b.address)
  const all = [...spots, { address: NOWHERE, rank: 0 }]
  const zero = () => new Uint16Array(all.length)
  const costs = forOwnTerms(zero)
  all.forEach(({ address, rank }, index) => {
    costs.rank[index] = rank
    costs.outside[index] = outside.has(address % NUMBERS) ? 1 : 0
    if (address === NOWHERE) costs.errors[index] = 1
  })
  return {
    addresses: Int32Array.from(all, ({ address }) => address),
    takes: all.map(({ address }) =>
      Int32Array.from(address === NOWHERE ? [] : half === null ? [address] : [address, address + half]),
    ),
    costs,
    leave: all.length - 1,
    fieldless: null,
  }
}

/** A shape that takes one of some sets, of which each is stale where it is said, or is left with an error. */
export const shapeTaking = (sets: readonly number[][], stale: readonly number[] = []): Shape => ({
  addresses: Int32Array.from([...sets.map(([first = 0]) => first), NOWHERE]),
  takes: [...sets, []].map((set) => Int32Array.from(set)),
  costs: {
    ...forOwnTerms(() => new Uint16Array(sets.length + 1)),
    errors: Uint16Array.from([...sets.map(() => 0), 1]),
    stale: Uint16Array.from([...sets.map((_, index) => stale[index] ?? 0), 0]),
  },
  leave: sets.length,
  fieldless: null,
})

export function problemOf({ channels, chains, outside }: Drawn, half = 32): Problem {
  const plain = shapeOver(channels, null, new Set(outside))
  const pair = shapeOver(channels, half, new Set(outside))
  const items: Shape[] = []
  const lists = chains.map(({ length, isPair }) =>
    Array.from({ length }, () => items.push(isPair ? pair : plain) - 1),
  )
  return { items, chains: lists, resources: channels.length * NUMBERS }
}

/** A problem with a mapping that the first `leaders` items serve: each takes its turn to be heard from an address on. */
export function withMapping(problem: Problem, leaders: number, from: number): Problem {
  const tokens = Array.from({ length: leaders }, (_, leader) => problem.resources + leader)
  const nowhere = (count: number, stale: readonly number[]): Shape => ({
    addresses: new Int32Array(count).fill(NOWHERE),
    takes: Array.from({ length: count }, (_, index) => Int32Array.from(tokens.slice(index, index + 1))),
    costs: {
      ...forOwnTerms(() => new Uint16Array(count)),
      stale: Uint16Array.from(stale),
    },
    leave: count - 1,
    fieldless: null,
  })
  return {
    items: [
      ...problem.items.map((shape, item) => ({
        ...shape,
        takes: shape.takes.map((takes, candidate) => {
          const isSilent = item < leaders && (shape.addresses[candidate] ?? NOWHERE) % NUMBERS < from
          return isSilent ? Int32Array.from([...takes, tokens[item] ?? 0]) : takes
        }),
      })),
      nowhere(leaders + 1, [...tokens.map(() => 0), 1]),
    ],
    chains: [...problem.chains, [problem.items.length]],
    resources: problem.resources + leaders,
  }
}

/** A problem in which candidates cost what was learned, all but the first `stays` of each item, with a mapping that two items serve. */
export function withStakes(drawn: Drawn, stays: number): Problem {
  const problem = problemOf(drawn, 3)
  const costly = (shape: Shape): Shape => ({
    ...shape,
    costs: {
      ...shape.costs,
      stale: shape.costs.stale.map((_, candidate) => (candidate >= stays ? 1 : 0)),
      warnings: shape.costs.warnings.map((_, candidate) => (candidate % 2 === 1 ? 1 : 0)),
    },
  })
  return withMapping({ ...problem, items: problem.items.map(costly) }, Math.min(2, problem.items.length), 2)
}

/** Small problems that can be tried through: a few numbers, a few chains. */
export const anySmall: fc.Arbitrary<Drawn> = fc.record({
  channels: fc.array(
    fc
      .uniqueArray(
        fc.record({ number: fc.integer({ min: 0, max: 9 }), rank: fc.constantFrom(0, 0, 1, 2, 4) }),
        {
          minLength: 1,
          maxLength: 6,
          selector: ({ number }) => number,
        },
      )
      .map((list) => list.toSorted((a, b) => a.number - b.number)),
    { minLength: 1, maxLength: 2 },
  ),
  chains: fc.array(fc.record({ length: fc.integer({ min: 1, max: 3 }), isPair: fc.boolean() }), {
    minLength: 1,
    maxLength: 3,
  }),
  outside: fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { maxLength: 3 }),
})

/** More that want a number than there are, as often as not: few enough to be tried through. */
export const anyCrowd: fc.Arbitrary<Drawn> = anySmall
  .map((drawn) => ({ ...drawn, chains: [...drawn.chains, { length: 2, isPair: false }].slice(0, 3) }))
  .filter(({ chains }) => chains.reduce((sum, { length }) => sum + length, 0) <= 5)

/** Every choice in which nothing is taken twice, and each item has an address that it may have. */
export function* everyChoice(
  problem: Problem,
  isAllowed: (item: number, address: number) => boolean = () => true,
): Generator<Choice> {
  const taken = new Set<number>()
  const choice: number[] = []
  function* go(item: number): Generator<Choice> {
    const shape = problem.items[item]
    if (!shape) {
      yield [...choice]
      return
    }
    for (const [candidate, takes] of shape.takes.entries()) {
      if (!isAllowed(item, shape.addresses[candidate] ?? NOWHERE)) continue
      if (takes.some((resource) => taken.has(resource))) continue
      takes.forEach((resource) => taken.add(resource))
      choice.push(candidate)
      yield* go(item + 1)
      choice.pop()
      takes.forEach((resource) => taken.delete(resource))
    }
  }
  yield* go(0)
}

/** The best choice, by trying every one in which each item has an address that it may have. */
export function bestByTrying(
  problem: Problem,
  isAllowed: (item: number, address: number) => boolean = () => true,
): Choice {
  let best: Choice | null = null
  for (const choice of everyChoice(problem, isAllowed))
    if (best === null || comparePlaced(problem, choice, best) < 0) best = choice
  return best ?? []
}

/**
 * An item whose candidates take two or three of few things, so that halves of candidates go together where wholes do not; the
 * last leaves it where it is.
 *
 * @param most What a candidate costs of each term, at most.
 * @param left What it costs to be left.
 */
export const anyHalvingShape = (
  resources: number,
  most: Partial<Record<OwnTerm, number>>,
  left: Partial<Record<OwnTerm, number>>,
): fc.Arbitrary<Shape> =>
  fc
    .array(
      fc.record({
        takes: fc.uniqueArray(fc.nat({ max: resources - 1 }), { minLength: 2, maxLength: 3 }),
        costs: fc.record(
          Object.fromEntries(OWN_TERMS.map((term) => [term, fc.nat({ max: most[term] ?? 0 })])),
        ),
      }),
      { minLength: 2, maxLength: 4, size: 'max' },
    )
    .map((all) => ({
      addresses: Int32Array.from([...all.keys(), NOWHERE]),
      takes: [...all.map(({ takes }) => Int32Array.from(takes)), new Int32Array()],
      costs: forOwnTerms((term) =>
        Uint16Array.from([...all.map(({ costs }) => costs[term] ?? 0), left[term] ?? 0]),
      ),
      leave: all.length,
      fieldless: null,
    }))
