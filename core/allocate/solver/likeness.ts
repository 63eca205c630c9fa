import type { Fields } from './fields'
import { NOWHERE, TERMS, type Problem, type Shape } from './problem'

/** The same for problems that differ only in the field where they lie. */
export function likeness({ items, chains }: Problem, field: number, { fieldOf, within }: Fields): string {
  const labels = new Map<number, number>()
  const labelOf = (resource: number): number => {
    const known = labels.get(resource) ?? labels.size
    labels.set(resource, known)
    return known
  }
  const shapes = new Map<Shape, number>()
  const said: unknown[] = []
  const order = items.map((shape) => {
    const known = shapes.get(shape)
    if (known !== undefined) return known
    shapes.set(shape, shapes.size)
    said.push([
      Array.from(shape.addresses, (address) =>
        address === NOWHERE ? NOWHERE : fieldOf(address) === field ? within(address) : -2 - address,
      ),
      [shape.leave, ...(shape.fieldless ?? [])],
      shape.takes.map((takes) => Array.from(takes, labelOf)),
      TERMS.map((term) => (term === 'breaks' ? 0 : Array.from(shape.costs[term]))),
    ])
    return shapes.size - 1
  })
  return JSON.stringify([said, order, chains])
}
