import type { Merged } from './alike'

/** A group that could have something in some manner. */
export interface Use {
  group: number
  manner: number
}

/** Places that the same groups could have in the same manners. */
export interface PlaceClass {
  places: number[]
  uses: readonly Use[]
}

/** Uses of the same classes. */
export interface Pool {
  uses: Use[]
  classes: readonly number[]
}

/** Places by who could have them. */
export function classesOf({ groups, places }: Merged): PlaceClass[] {
  /** Each class is one before, and a use more. */
  const nodes: Array<{ before: number; use: Use | null }> = [{ before: 0, use: null }]
  const next = new Map<number, number>()
  const classOf = new Int32Array(places.length)
  let uses = 0
  groups.forEach(({ options }, group) => {
    const numbers = new Map<number, number>()
    for (const { place, manner } of options) {
      const number = numbers.get(manner) ?? uses++
      numbers.set(manner, number)
      const before = classOf[place] ?? 0
      const key = number * 2 ** 26 + before
      const known = next.get(key) ?? nodes.push({ before, use: { group, manner } }) - 1
      next.set(key, known)
      classOf[place] = known
    }
  })
  const usesOf = (node: number): Use[] => {
    const found: Use[] = []
    for (let at = nodes[node]; at?.use; at = nodes[at.before]) found.push(at.use)
    return found.reverse()
  }
  const classes = new Map<number, PlaceClass>()
  classOf.forEach((node, place) => {
    const own = classes.get(node)
    if (own) own.places.push(place)
    else classes.set(node, { places: [place], uses: usesOf(node) })
  })
  return [...classes.values()].filter((own) => own.uses.length > 0)
}

/** Uses by the classes that they are of: of classes that more than one could have. */
export function poolsOf(classes: readonly PlaceClass[]): Pool[] {
  const ofUse = new Map<string, { use: Use; classes: number[] }>()
  classes.forEach(({ uses }, classed) => {
    if (uses.length === 1) return
    for (const use of uses) {
      const key = `${use.group} ${use.manner}`
      const own = ofUse.get(key)
      if (own) own.classes.push(classed)
      else ofUse.set(key, { use, classes: [classed] })
    }
  })
  const pools = new Map<string, Pool>()
  for (const { use, classes: own } of ofUse.values()) {
    const key = own.join()
    const pool = pools.get(key)
    if (pool) pool.uses.push(use)
    else pools.set(key, { uses: [use], classes: own })
  }
  return [...pools.values()]
}
