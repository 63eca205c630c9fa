/** Lists of numbers by what is in them, in whatever order and however often. */
export interface Sets {
  /** The same number, counted from 0, for lists of the same numbers. */
  numberOf: (list: Int32Array) => number
  /** What is in each set, once. */
  sets: ReadonlyArray<readonly number[]>
}

/** Puts lists of the same numbers, 0 or more each, together. */
export function sameSets(): Sets {
  const sets: number[][] = []
  const byDigest = new Map<number, number[]>()
  let seenBy = new Int32Array(1024)
  let turn = 0
  const isSeen = (value: number): boolean => seenBy[value] === turn
  const see = (value: number): void => {
    if (value >= seenBy.length) {
      const larger = new Int32Array(2 * value)
      larger.set(seenBy)
      seenBy = larger
    }
    seenBy[value] = turn
  }
  const distinct = (list: Int32Array): number[] => {
    turn++
    const found: number[] = []
    for (let at = 0; at < list.length; at++) {
      const value = list[at] ?? 0
      if (isSeen(value)) continue
      see(value)
      found.push(value)
    }
    return found
  }
  return {
    sets,
    numberOf: (list) => {
      const own = distinct(list)
      const digest = digestOf(own)
      const alike = byDigest.get(digest) ?? []
      byDigest.set(digest, alike)
      const isSame = (set: number): boolean =>
        sets[set]?.length === own.length && sets[set].every((value) => isSeen(value))
      const known = alike.find(isSame)
      if (known !== undefined) return known
      const number = sets.push(own) - 1
      alike.push(number)
      return number
    },
  }
}

/** A number that is the same for the same values, whatever their order. */
function digestOf(values: readonly number[]): number {
  let digest = values.length
  for (const value of values) {
    const mixed = Math.imul(value ^ (value >>> 7), 0x9e3779b1)
    digest = (digest + (mixed ^ (mixed >>> 15))) | 0
  }
  return digest
}
