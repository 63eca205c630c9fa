import { NOWHERE, OWN_TERMS, type OwnTerm, type Shape } from './solver/problem'

/** One candidate of a shape. */
export interface Row {
  address: number
  takes: Int32Array
  costs: Partial<Record<OwnTerm, number>>
  /** Does it leave the item as it is? */
  isStill: boolean
  /** Does it keep to no field? */
  isFieldless: boolean
}

/** In the order of addresses, those without one last. */
export const inAddressOrder = <T extends { address: number }>(rows: readonly T[]): T[] =>
  rows.toSorted((a, b) => orderOf(a.address) - orderOf(b.address))

const orderOf = (address: number): number => (address === NOWHERE ? Number.MAX_SAFE_INTEGER : address)

const isSame = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a.length !== b.length) return false
  for (let index = 0; index < a.length; index++) if (a[index] !== b[index]) return false
  return true
}

const isSameShape = (a: Shape, b: Shape): boolean =>
  a.leave === b.leave &&
  isSame(a.addresses, b.addresses) &&
  isSame(a.fieldless ?? [], b.fieldless ?? []) &&
  OWN_TERMS.every((term) => isSame(a.costs[term], b.costs[term])) &&
  a.takes.every((takes, index) => isSame(takes, b.takes[index] ?? []))

/** A number that is the same for shapes that are. */
function digestOf({ addresses, takes, costs, leave }: Shape): number {
  let digest = leave
  const add = (value: number): void => {
    digest = (Math.imul(digest, 31) + value) | 0
  }
  addresses.forEach(add)
  for (const term of OWN_TERMS) costs[term].forEach(add)
  for (const each of takes) each.forEach(add)
  return digest
}

/** Makes shapes of rows; rows that are the very same give one shape. */
export function shapeMaker(): (rows: readonly Row[]) => Shape {
  const known = new Map<number, Shape[]>()
  const zeros = new Map<number, Uint16Array>()
  const column = (rows: readonly Row[], term: OwnTerm): Uint16Array => {
    const values = new Uint16Array(rows.length)
    let isNothing = true
    for (let index = 0; index < values.length; index++) {
      const cost = rows[index]?.costs[term] ?? 0
      if (cost > 0) isNothing = false
      values[index] = cost
    }
    if (!isNothing) return values
    const nothing = zeros.get(values.length) ?? values
    zeros.set(values.length, nothing)
    return nothing
  }
  return (rows) => {
    const shape: Shape = {
      addresses: Int32Array.from(rows, ({ address }) => address),
      takes: rows.map(({ takes }) => takes),
      costs: Object.fromEntries(OWN_TERMS.map((term) => [term, column(rows, term)])) as Shape['costs'],
      leave: rows.findLastIndex(({ isStill }) => isStill),
      fieldless: rows.some(({ isFieldless }) => isFieldless)
        ? Uint8Array.from(rows, ({ isFieldless }) => (isFieldless ? 1 : 0))
        : null,
    }
    const digest = digestOf(shape)
    const alike = known.get(digest) ?? []
    known.set(digest, alike)
    const before = alike.find((each) => isSameShape(each, shape))
    if (before) return before
    alike.push(shape)
    return shape
  }
}
