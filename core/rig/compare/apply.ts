import type { Id, Rig } from '../types'
import type { Difference } from './difference'
import { RIG_SHAPE, shapeWithin, type Shape } from './shape'

type Item = { id: Id }
type Table = Record<string, unknown>
/** What holds the thing at a place: a list of items, or fields and tables by name. */
type Holder = { kind: 'items'; items: Item[] } | { kind: 'table'; table: Table }

const holderOf = (value: unknown, shape: Shape): Holder | null => {
  if (shape.kind === 'items') return { kind: 'items', items: value as Item[] }
  return typeof value === 'object' && value !== null ? { kind: 'table', table: value as Table } : null
}

/** What lies at a place of a draft; null where one of those that hold it is not there. */
function at(rig: Rig, where: readonly string[]): Holder | null {
  let value: unknown = rig
  let shape = RIG_SHAPE
  for (const step of where) {
    const holder = holderOf(value, shape)
    value =
      holder?.kind === 'items'
        ? holder.items.find(({ id }) => id === step)
        : holder && Object.hasOwn(holder.table, step)
          ? holder.table[step]
          : undefined
    shape = shapeWithin(shape, step)
    if (value === undefined) return null
  }
  return holderOf(value, shape)
}

const put = (items: Item[], item: Item, behind: Id | null): void => {
  const index = items.findIndex(({ id }) => id === item.id)
  if (index >= 0) {
    items[index] = item
    return
  }
  const before = items.findIndex(({ id }) => id === behind)
  items.splice(behind === null ? 0 : before < 0 ? items.length : before + 1, 0, item)
}

/** Items in the order of ids; one that has no place there stays behind the one that it stood behind. */
function inOrder(items: readonly Item[], ids: readonly Id[]): Item[] {
  const byId = new Map(items.map((item) => [item.id, item]))
  const placed = ids.flatMap((id) => byId.get(id) ?? [])
  const known = new Set(ids)
  items.forEach((item, index) => {
    if (known.has(item.id)) return
    const before = items[index - 1]
    placed.splice(before ? placed.indexOf(before) + 1 : 0, 0, item)
  })
  return placed
}

function makeOne(rig: Rig, difference: Difference): boolean {
  const { where } = difference
  const holder = at(rig, difference.kind === 'order' ? where : where.slice(0, -1))
  const step = where.at(-1)
  if (!holder || step === undefined) return false
  if (difference.kind === 'order') {
    if (holder.kind !== 'items') return false
    holder.items.splice(0, Infinity, ...inOrder(holder.items, difference.after))
    return true
  }
  if (holder.kind === 'items') {
    const index = holder.items.findIndex(({ id }) => id === step)
    if (difference.kind === 'gone') {
      if (index >= 0) holder.items.splice(index, 1)
    } else put(holder.items, difference.after as Item, difference.kind === 'new' ? difference.behind : null)
    return true
  }
  if (difference.kind === 'gone') Reflect.deleteProperty(holder.table, step)
  else holder.table[step] = difference.after
  return true
}

/** What goes is gone before anything comes, and order is made of what is there at last. */
const TURN: Readonly<Record<Difference['kind'], number>> = { gone: 0, changed: 1, new: 2, order: 3 }

/**
 * Make differences in a draft of a rig. Gives those for which there was no place, for what holds them is not there; with all
 * differences of `compareRigs(a, b)` and a draft of `a` there are none, and it becomes `b`.
 */
export const makeDifferences = (draft: Rig, differences: readonly Difference[]): Difference[] =>
  differences
    .toSorted((a, b) => TURN[a.kind] - TURN[b.kind])
    .filter((difference) => !makeOne(draft, difference))
