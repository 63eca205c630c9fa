import type { Id, Rig } from '../types'
import type { Difference, Where } from './difference'
import { RIG_SHAPE, shapeWithin, type Shape } from './shape'

type Thing = Readonly<Record<string, unknown>>
type Items = ReadonlyArray<{ id: Id }>

/** Are two values of JSON the same, whatever the order of their fields? */
export function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) &&
      Array.isArray(b) &&
      a.length === b.length &&
      a.every((item, index) => isSame(item, b[index]))
    )
  const [left, right] = [a as Thing, b as Thing]
  const keys = Object.keys(left)
  return (
    keys.length === Object.keys(right).length &&
    keys.every((key) => Object.hasOwn(right, key) && isSame(left[key], right[key]))
  )
}

function keyed(a: Thing, b: Thing, where: Where, within: (key: string) => Shape, found: Difference[]): void {
  for (const key of new Set([...Object.keys(a), ...Object.keys(b)])) {
    const at = [...where, key]
    if (!Object.hasOwn(b, key)) found.push({ kind: 'gone', where: at, before: a[key] })
    else if (!Object.hasOwn(a, key)) found.push({ kind: 'new', where: at, after: b[key], behind: null })
    else differ(a[key], b[key], within(key), at, found)
  }
}

function itemsDiffer(a: Items, b: Items, of: Shape, where: Where, found: Difference[]): void {
  const before = new Map(a.map((item) => [item.id, item]))
  const after = new Map(b.map((item) => [item.id, item]))
  for (const item of a) {
    const other = after.get(item.id)
    if (other) differ(item, other, of, [...where, item.id], found)
    else found.push({ kind: 'gone', where: [...where, item.id], before: item })
  }
  b.forEach((item, index) => {
    if (!before.has(item.id))
      found.push({
        kind: 'new',
        where: [...where, item.id],
        after: item,
        behind: b[index - 1]?.id ?? null,
      })
  })
  const stayed = (items: Items, others: ReadonlyMap<Id, unknown>): Id[] =>
    items.flatMap(({ id }) => (others.has(id) ? [id] : []))
  if (!isSame(stayed(a, after), stayed(b, before)))
    found.push({ kind: 'order', where, before: a.map(({ id }) => id), after: b.map(({ id }) => id) })
}

function differ(a: unknown, b: unknown, shape: Shape, where: Where, found: Difference[]): void {
  if (a === b) return
  switch (shape.kind) {
    case 'fields':
    case 'table':
      return keyed(a as Thing, b as Thing, where, (key) => shapeWithin(shape, key), found)
    case 'items':
      return itemsDiffer(a as Items, b as Items, shape.of, where, found)
    case 'whole':
      if (!isSame(a, b)) found.push({ kind: 'changed', where, before: a, after: b })
  }
}

/**
 * In what one rig differs from another: what is gone, new, changed or in another order. Applied to the first, all of it gives the
 * second (`withDifferences`). Parts that both share as the same object are not looked into.
 */
export function compareRigs(a: Rig, b: Rig): Difference[] {
  const found: Difference[] = []
  differ(a, b, RIG_SHAPE, [], found)
  return found
}
