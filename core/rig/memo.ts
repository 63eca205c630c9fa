/**
 * A function that is worked out once for the same input: as long as everything that it rests on is the very same
 * object. `restsOn` names that; the first must be an object, and is what the memory is kept with.
 */
export function memo<I, T>(
  restsOn: (input: I) => readonly [object, ...unknown[]],
  make: (input: I) => T,
): (input: I) => T {
  const known = new WeakMap<object, { on: readonly unknown[]; value: T }>()
  return (input) => {
    const on = restsOn(input)
    const before = known.get(on[0])
    if (before && before.on.length === on.length && before.on.every((each, index) => each === on[index]))
      return before.value
    const value = make(input)
    known.set(on[0], { on, value })
    return value
  }
}

/** A function of one object that is worked out once for it, and kept as long as it is. */
export function memoOf<A extends object, T>(make: (a: A) => T): (a: A) => T {
  const known = new WeakMap<A, { value: T }>()
  return (a) => {
    let kept = known.get(a)
    if (!kept) known.set(a, (kept = { value: make(a) }))
    return kept.value
  }
}

/** A function of two objects that is worked out once for the same two, and kept as long as both are. */
export function memoOfTwo<A extends object, B extends object, T>(make: (a: A, b: B) => T): (a: A, b: B) => T {
  const known = new WeakMap<A, WeakMap<B, { value: T }>>()
  return (a, b) => {
    let ofA = known.get(a)
    if (!ofA) known.set(a, (ofA = new WeakMap()))
    let kept = ofA.get(b)
    if (!kept) ofA.set(b, (kept = { value: make(a, b) }))
    return kept.value
  }
}

/** A list of the same objects again, as the very list that was seen last, so that it can be compared as one. */
export function stableList<T>(): (list: readonly T[]) => readonly T[] {
  let last: readonly T[] = []
  return (list) => {
    if (list.length !== last.length || list.some((each, index) => each !== last[index])) last = list
    return last
  }
}
