import { cheapest, priced, weighed } from './chain'
import type { Priced } from './prices'
import type { Problem } from './problem'
import { seeded } from './seeded'

/** Chains in the orders in which they are tried: the longest first, and as they stand. */
export function orders({ chains }: Problem): [number[], number[]] {
  const plain = chains.map((_, index) => index)
  const longest = plain.toSorted((a, b) => (chains[b]?.length ?? 0) - (chains[a]?.length ?? 0) || a - b)
  return [longest, plain]
}

/** Another order of the same, the same for the same seed. */
export function mixedUp(order: readonly number[], seed: number): number[] {
  const random = seeded(seed)
  return order
    .map((item) => [item, random()] as const)
    .toSorted((a, b) => a[1] - b[1])
    .map(([item]) => item)
}

/** The same problem with those chains first that want what others want too: there a search ends soonest. */
export function mostWantedFirst(problem: Problem, { prices, weights }: Priced): Problem {
  const costs = priced(weighed(weights), prices, null)
  const wanted = new Map(
    problem.chains.map((chain) => {
      const { path } = cheapest(problem, chain, costs, weights.breaks)
      const takes = chain.flatMap((item, index) => [...(problem.items[item]?.takes[path[index] ?? 0] ?? [])])
      return [chain, takes.reduce((sum, resource) => sum + (prices[resource] ?? 0), 0)]
    }),
  )
  const { items, resources } = problem
  const chains = problem.chains.toSorted((a, b) => (wanted.get(b) ?? 0) - (wanted.get(a) ?? 0))
  return { items, chains, resources }
}
