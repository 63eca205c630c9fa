import { forOwnTerms, NOWHERE, OWN_TERMS, TERMS, type OwnTerm, type Problem, type Shape } from './problem'

/** Terms that depend on whether something goes, and hardly on where to. */
const KEPT_TERMS: ReadonlySet<OwnTerm> = new Set(OWN_TERMS.slice(0, TERMS.indexOf('breaks')))

/**
 * A problem in which whoever moves finds room, and the terms from breaks on are nothing: where an item could go takes only what
 * decides on the items from `firstServed` on, and places that cost the same are one candidate. Every choice of the problem is
 * there and scores no more, so nothing is better than the best of this one, which is small.
 *
 * @param moves Does a candidate take an item elsewhere?
 */
export function withRoomForAll(
  { items }: Problem,
  moves: (item: number, candidate: number) => boolean,
  firstServed: number,
): Problem {
  const deciding = new Set(items.slice(firstServed).flatMap(({ takes }) => takes.flatMap((own) => [...own])))
  const numbers = new Map<number, number>()
  const numbered = (resource: number): number => {
    const number = numbers.get(resource) ?? numbers.size
    numbers.set(resource, number)
    return number
  }
  const roomy = items.map((shape, item): Shape => {
    const costOf = (term: OwnTerm, candidate: number): number =>
      KEPT_TERMS.has(term) ? (shape.costs[term][candidate] ?? 0) : 0
    const known = new Map<string, { candidate: number; takes: Int32Array }>()
    for (const [candidate, takes] of shape.takes.entries()) {
      const isMoving = moves(item, candidate)
      const own = isMoving ? takes.filter((resource) => deciding.has(resource)) : takes
      const key = isMoving
        ? `${OWN_TERMS.map((term) => costOf(term, candidate)).join()} ${own.join()}`
        : `stays ${candidate}`
      if (!known.has(key)) known.set(key, { candidate, takes: own })
    }
    const kept = [...known.values()]
    const column = (term: OwnTerm): Uint16Array =>
      Uint16Array.from(kept, ({ candidate }) => costOf(term, candidate))
    return {
      addresses: new Int32Array(kept.length).fill(NOWHERE),
      takes: kept.map(({ takes }) => takes.map(numbered)),
      costs: forOwnTerms(column),
      leave: kept.findIndex(({ candidate }) => candidate === shape.leave),
      fieldless: null,
    }
  })
  return { items: roomy, chains: roomy.map((_, item) => [item]), resources: numbers.size }
}
