/**
 * The terms of what is best, most important first: errors left; what was asked for and is not done; learned mappings
 * that no longer agree; warnings left; addresses changed, where few changes are what is asked for; breaks; numbers
 * outside what is preferred; class ranks; addresses changed, elsewhere. `docs/allocation.md` says what each counts.
 */
export const TERMS = [
  'errors',
  'unmet',
  'stale',
  'warnings',
  'changed',
  'breaks',
  'outside',
  'rank',
  'moved',
] as const
export type Term = (typeof TERMS)[number]
export type Score = Readonly<Record<Term, number>>

/** Those of which most is at stake: who is left, and what is lost or unheard. */
export const FIRST_TERMS = ['errors', 'unmet', 'stale', 'warnings'] as const satisfies readonly Term[]

/** Terms that each candidate has by itself; breaks lie between two. */
export type OwnTerm = Exclude<Term, 'breaks'>
/** Every term but breaks, in order. */
export const OWN_TERMS = TERMS.filter((term): term is OwnTerm => term !== 'breaks')

/** No address: the item is left without a number. */
export const NOWHERE = -1

/** No two addresses on one channel lie farther apart, and any two on different channels do. */
export const FARTHEST_ON_ONE = 2 ** 14

/**
 * Where an item can go, in the order of addresses, `NOWHERE` last. Items that can go to the same places at the
 * same costs share one shape.
 */
export interface Shape {
  /** One number an address; the next number on the same channel is the next address. Two candidates may have one. */
  addresses: Int32Array
  /** What each candidate takes, of which everything is there once. */
  takes: readonly Int32Array[]
  costs: Readonly<Record<OwnTerm, Uint16Array>>
  /** The candidate that leaves the item as it is; -1 for none. All items can be left as they are together. */
  leave: number
  /** The candidates that keep to no field: 1 for each of them. Null where that are those without an address. */
  fieldless: Uint8Array | null
}

/** Hand out addresses: each item one candidate of its shape, nothing taken twice. */
export interface Problem {
  /** The shape of each item. Items stand in the order of the rig. */
  items: readonly Shape[]
  /** Neighbours in reading order, each item in one chain; between two that do not run on is a break. */
  chains: ReadonlyArray<readonly number[]>
  resources: number
}

/** The candidate of each item. */
export type Choice = readonly number[]

/** Does a candidate cost nothing of some terms, as far as these are its own? */
export function costsNothing({ costs }: Shape, candidate: number, terms: readonly Term[]): boolean {
  for (const term of terms) if (term !== 'breaks' && (costs[term][candidate] ?? 0) > 0) return false
  return true
}

// Records are put together by literals, so that all of a kind are laid out alike: engines compile anew for each layout.

/** Something for each term. */
export const forTerms = <T>(of: (term: Term) => T): Record<Term, T> => ({
  errors: of('errors'),
  unmet: of('unmet'),
  stale: of('stale'),
  warnings: of('warnings'),
  changed: of('changed'),
  breaks: of('breaks'),
  outside: of('outside'),
  rank: of('rank'),
  moved: of('moved'),
})

/** Something for each term but breaks. */
export const forOwnTerms = <T>(of: (term: OwnTerm) => T): Record<OwnTerm, T> => ({
  errors: of('errors'),
  unmet: of('unmet'),
  stale: of('stale'),
  warnings: of('warnings'),
  changed: of('changed'),
  outside: of('outside'),
  rank: of('rank'),
  moved: of('moved'),
})

/** The same problem with other shapes. */
export const withItems = ({ chains, resources }: Problem, items: readonly Shape[]): Problem => ({
  items,
  chains,
  resources,
})

/** A shape whose candidates take something else. */
export const withTakes = (
  { addresses, costs, leave, fieldless }: Shape,
  takes: readonly Int32Array[],
): Shape => ({ addresses, takes, costs, leave, fieldless })

/** Costs of nothing, to count up from. */
export const noCosts = (): Record<OwnTerm, number> => ({
  errors: 0,
  unmet: 0,
  stale: 0,
  warnings: 0,
  changed: 0,
  outside: 0,
  rank: 0,
  moved: 0,
})

/** A score of nothing, to count up from. */
export const noScore = (): Record<Term, number> => ({
  errors: 0,
  unmet: 0,
  stale: 0,
  warnings: 0,
  changed: 0,
  breaks: 0,
  outside: 0,
  rank: 0,
  moved: 0,
})

/** So much of a term there is at most, whatever is chosen. */
export function mostOf({ items, chains }: Problem, term: Term): number {
  if (term === 'breaks') return chains.reduce((sum, { length }) => sum + Math.max(0, length - 1), 0)
  const known = new Map<Shape, number>()
  return items.reduce((sum, shape) => {
    const most = known.get(shape) ?? highest(shape.costs[term])
    known.set(shape, most)
    return sum + most
  }, 0)
}

function highest(values: Uint16Array): number {
  let most = 0
  for (let index = 0; index < values.length; index++) most = Math.max(most, values[index] ?? 0)
  return most
}

/** Does a choice give everyone a candidate, and nothing twice? */
export function isPossible({ items, resources }: Problem, choice: Choice): boolean {
  const taken = new Uint8Array(resources)
  for (const [item, candidate] of choice.entries()) {
    if (candidate < 0) return false
    for (const resource of items[item]?.takes[candidate] ?? []) {
      if (taken[resource] === 1) return false
      taken[resource] = 1
    }
  }
  return true
}

/** Where a choice puts an item. */
export const addressOf = ({ items }: Problem, item: number, choice: Choice): number =>
  items[item]?.addresses[choice[item] ?? 0] ?? NOWHERE

/** Does an address run on from the one before? */
export const runsOn = (before: number, address: number): boolean =>
  before !== NOWHERE && address === before + 1

/** The score of a choice; of some chains only, where they are given. */
export function scoreOf(problem: Problem, choice: Choice, chains: Problem['chains'] = problem.chains): Score {
  const score = noScore()
  for (const chain of chains) {
    chain.forEach((item, index) => {
      const shape = problem.items[item]
      const candidate = choice[item] ?? 0
      if (shape) for (const term of OWN_TERMS) score[term] += shape.costs[term][candidate] ?? 0
      const before = chain[index - 1]
      if (before === undefined) return
      if (!runsOn(addressOf(problem, before, choice), addressOf(problem, item, choice))) score.breaks++
    })
  }
  return score
}

/** Lower is better; below zero if `a` is better than `b`. */
export function compareScores(a: Score, b: Score): number {
  for (const term of TERMS) if (a[term] !== b[term]) return a[term] - b[term]
  return 0
}

/**
 * As `compareScores`; of equal scores the one that has the lower addresses, item by item. Of some chains only,
 * where they are given.
 */
export function comparePlaced(
  problem: Problem,
  a: Choice,
  b: Choice,
  chains: Problem['chains'] = problem.chains,
): number {
  const byScore = compareScores(scoreOf(problem, a, chains), scoreOf(problem, b, chains))
  if (byScore !== 0) return byScore
  const items = chains.flat().sort((one, other) => one - other)
  for (const item of items) {
    const difference = orderOf(addressOf(problem, item, a)) - orderOf(addressOf(problem, item, b))
    if (difference !== 0) return difference
  }
  return 0
}

/** Where an address stands among others: what has none stands last. */
export const orderOf = (address: number): number => (address === NOWHERE ? Number.MAX_SAFE_INTEGER : address)
