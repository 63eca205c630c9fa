import { isPossible, NOWHERE, OWN_TERMS, type Choice, type Problem, type Shape } from './problem'

/** The candidates with an address: such stand together. */
function placesAt({ addresses }: Shape, address: number): number[] {
  const found: number[] = []
  const first = addresses.indexOf(address)
  if (first >= 0) for (let at = first; addresses[at] === address; at++) found.push(at)
  return found
}

/** The candidate that stands for one of another shape: with its address and its costs, and as far back among such. */
function standsFor(from: Shape, candidate: number, to: Shape): number {
  const address = from.addresses[candidate] ?? NOWHERE
  const isAlike = (shape: Shape, other: number): boolean =>
    OWN_TERMS.every((term) => from.costs[term][candidate] === shape.costs[term][other])
  const alike = (shape: Shape): number[] => placesAt(shape, address).filter((other) => isAlike(shape, other))
  return alike(to)[alike(from).indexOf(candidate)] ?? -1
}

/**
 * A choice of one problem, in the candidates of another that has the same items and more candidates. Null where it has no
 * such choice.
 */
export function carriedOver(from: Problem, choice: Choice, to: Problem): Choice | null {
  if (from.items.length !== to.items.length) return null
  const carried = choice.map((candidate, item) => {
    const [own, other] = [from.items[item], to.items[item]]
    return own && other ? standsFor(own, candidate, other) : -1
  })
  return isPossible(to, carried) ? carried : null
}
