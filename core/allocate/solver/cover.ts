/**
 * A price of 1 for what covers all wishes: as many as possible are matched with one resource each of those they name (Hopcroft
 * and Karp's algorithm), and those that cover what is named then (König's theorem) have the price.
 *
 * @param wants The resources that each wish names, by their numbers below `resources`; each names some.
 * @returns The price of each resource, 0 or 1: as many 1 as wishes can be matched.
 */
export function coverPrices(wants: readonly Int32Array[], resources: number): Float64Array {
  const holder = new Int32Array(resources).fill(-1)
  const held = new Int32Array(wants.length).fill(-1)
  const level = new Int32Array(wants.length)

  const layers = (): boolean => {
    let isOpen = false
    const queue: number[] = []
    level.fill(-1)
    held.forEach((resource, wish) => {
      if (resource >= 0) return
      level[wish] = 0
      queue.push(wish)
    })
    for (let at = 0; at < queue.length; at++) {
      const wish = queue[at] ?? 0
      for (const resource of wants[wish] ?? []) {
        const other = holder[resource] ?? -1
        if (other < 0) isOpen = true
        else if (level[other] === -1) {
          level[other] = (level[wish] ?? 0) + 1
          queue.push(other)
        }
      }
    }
    return isOpen
  }

  /** Where each wish goes on looking, so that no way is tried twice in one turn. */
  const next = new Int32Array(wants.length)
  const augment = (first: number): boolean => {
    const way = [first]
    for (;;) {
      const wish = way.at(-1)
      if (wish === undefined) return false
      const list = wants[wish] ?? new Int32Array()
      const at = next[wish] ?? 0
      if (at >= list.length) {
        level[wish] = -1
        way.pop()
        const before = way.at(-1)
        if (before !== undefined) next[before] = (next[before] ?? 0) + 1
        continue
      }
      const resource = list[at] ?? 0
      const other = holder[resource] ?? -1
      if (other < 0) {
        for (const each of way) {
          const own = wants[each]?.[next[each] ?? 0] ?? 0
          holder[own] = each
          held[each] = own
        }
        return true
      }
      if (level[other] === (level[wish] ?? 0) + 1) way.push(other)
      else next[wish] = at + 1
    }
  }
  while (layers()) {
    next.fill(0)
    held.forEach((resource, wish) => {
      if (resource < 0) augment(wish)
    })
  }
  // After the last turn `level` says who could be reached from those that got nothing.
  const prices = new Float64Array(resources)
  wants.forEach((named, wish) => {
    if ((level[wish] ?? -1) >= 0) for (const resource of named) prices[resource] = 1
  })
  return prices
}
