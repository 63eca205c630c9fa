import { forOwnTerms, NOWHERE, orderOf, OWN_TERMS, type OwnTerm, type Shape } from './solver/problem'

/** One candidate of a shape. */
export interface Row {
  address: number
  takes: Int32Array
  costs: Readonly<Record<OwnTerm, number>>
  /** Does it leave the item as it is? */
  isStill: boolean
  /** Does it keep to no field? */
  isFieldless: boolean
}

/** Candidates that stand together in the order of addresses, such as those of one channel. Many items share some. */
export interface Stretch<R extends Row = Row> {
  rows: readonly R[]
  addresses: Int32Array
  takes: readonly Int32Array[]
  /** The terms of which they cost anything. */
  costs: ReadonlyMap<OwnTerm, Uint16Array>
  /** The last of them that leaves the item as it is; -1 for none. */
  leave: number
  /** Those that keep to no field: 1 for each; null for none. */
  fieldless: Uint8Array | null
}

/** Rows in the order of addresses, those without one last. */
export function stretchOf<R extends Row>(unsorted: readonly R[]): Stretch<R> {
  const rows = unsorted.toSorted((a, b) => orderOf(a.address) - orderOf(b.address))
  const used = OWN_TERMS.filter((term) => rows.some(({ costs }) => costs[term] > 0))
  return {
    rows,
    addresses: filled(new Int32Array(rows.length), (index) => rows[index]?.address ?? NOWHERE),
    takes: rows.map(({ takes }) => takes),
    costs: new Map(
      used.map((term) => [
        term,
        filled(new Uint16Array(rows.length), (index) => rows[index]?.costs[term] ?? 0),
      ]),
    ),
    leave: rows.findLastIndex(({ isStill }) => isStill),
    fieldless: rows.some(({ isFieldless }) => isFieldless)
      ? Uint8Array.from(rows, ({ isFieldless }) => (isFieldless ? 1 : 0))
      : null,
  }
}

/** A column with a value for each row: `from` of its kind takes far longer. */
function filled<T extends Int32Array | Uint16Array>(column: T, valueAt: (index: number) => number): T {
  for (let index = 0; index < column.length; index++) column[index] = valueAt(index)
  return column
}

/** Stretches in the order of their addresses; such as have no candidates are left out. */
export const stretchesInOrder = <R extends Row>(stretches: ReadonlyArray<Stretch<R>>): Array<Stretch<R>> =>
  stretches
    .filter(({ rows }) => rows.length > 0)
    .toSorted((a, b) => orderOf(a.addresses[0] ?? NOWHERE) - orderOf(b.addresses[0] ?? NOWHERE))

const isSame = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return false
  return true
}

const isSameStretch = (a: Stretch, b: Stretch): boolean =>
  isSame(a.addresses, b.addresses) &&
  OWN_TERMS.every((term) => isSame(a.costs.get(term) ?? [], b.costs.get(term) ?? [])) &&
  a.takes.every((takes, index) => isSame(takes, b.takes[index] ?? [])) &&
  a.rows.every(
    ({ isStill, isFieldless }, index) =>
      isStill === b.rows[index]?.isStill && isFieldless === b.rows[index]?.isFieldless,
  )

/** A number that is the same for stretches that are. */
function digestOf({ addresses, takes, costs }: Stretch): number {
  let digest = 0
  const add = (value: number): void => {
    digest = (Math.imul(digest, 31) + value) | 0
  }
  addresses.forEach(add)
  for (const column of costs.values()) column.forEach(add)
  for (const each of takes) each.forEach(add)
  return digest
}

/** Numbers stretches: the same for such as have the same candidates. */
function stretchNumbers(): (stretch: Stretch) => number {
  const byDigest = new Map<number, Stretch[]>()
  const numbers = new Map<Stretch, number>()
  return (stretch) => {
    const known = numbers.get(stretch)
    if (known !== undefined) return known
    const digest = digestOf(stretch)
    const alike = byDigest.get(digest) ?? []
    byDigest.set(digest, alike)
    const before = alike.find((each) => isSameStretch(each, stretch))
    if (before === undefined) alike.push(stretch)
    const number = (before && numbers.get(before)) ?? numbers.size
    numbers.set(stretch, number)
    return number
  }
}

/** Makes shapes of stretches in the order of their addresses; the very same candidates give one shape. */
export function shapeMaker(): (stretches: readonly Stretch[]) => Shape {
  const known = new Map<string, Shape>()
  const zeros = new Map<number, Uint16Array>()
  const numberOf = stretchNumbers()

  const nothing = (length: number): Uint16Array => {
    const column = zeros.get(length) ?? new Uint16Array(length)
    zeros.set(length, column)
    return column
  }
  const columnOf = (stretches: readonly Stretch[], term: OwnTerm, length: number): Uint16Array => {
    if (!stretches.some(({ costs }) => costs.has(term))) return nothing(length)
    const column = new Uint16Array(length)
    let at = 0
    for (const { costs, rows } of stretches) {
      const own = costs.get(term)
      if (own) column.set(own, at)
      at += rows.length
    }
    return column
  }
  const shapeOf = (stretches: readonly Stretch[]): Shape => {
    const length = stretches.reduce((sum, { rows }) => sum + rows.length, 0)
    const addresses = new Int32Array(length)
    const fieldless = stretches.some((own) => own.fieldless !== null) ? new Uint8Array(length) : null
    let leave = -1
    let at = 0
    for (const own of stretches) {
      addresses.set(own.addresses, at)
      if (own.leave >= 0) leave = at + own.leave
      if (own.fieldless) fieldless?.set(own.fieldless, at)
      at += own.rows.length
    }
    return {
      addresses,
      takes: new Array<Int32Array>().concat(...stretches.map(({ takes }) => takes)),
      costs: forOwnTerms((term) => columnOf(stretches, term, length)),
      leave,
      fieldless,
    }
  }
  return (stretches) => {
    const key = stretches.map(numberOf).join()
    const shape = known.get(key) ?? shapeOf(stretches)
    known.set(key, shape)
    return shape
  }
}
