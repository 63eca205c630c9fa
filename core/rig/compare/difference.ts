/** A place in a rig: names of fields, ids of items and keys of tables, from the outside in. */
export type Where = readonly string[]

/** One thing in which one rig differs from another. Plain data; `before` and `after` are JSON. */
export type Difference =
  | { kind: 'changed'; where: Where; before: unknown; after: unknown }
  /** `behind` is the item of its list that it comes after; null where it comes first, or where there is no order. */
  | { kind: 'new'; where: Where; after: unknown; behind: string | null }
  | { kind: 'gone'; where: Where; before: unknown }
  /** Items that are in both stand in another order; `after` are all ids as they stand afterwards. */
  | { kind: 'order'; where: Where; before: readonly string[]; after: readonly string[] }

/** Does a place lie within another, or is it the same? */
export const isWithin = (where: Where, outer: Where): boolean =>
  outer.length <= where.length && outer.every((step, index) => where[index] === step)

/** One string for a place. */
export const whereKey = (where: Where): string => where.map(encodeURIComponent).join('/')
