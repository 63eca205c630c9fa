import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { sameSets } from './same-sets'

it('gives lists one number where they have the same in them, and only there', () => {
  const anyLists = fc.array(fc.array(fc.oneof(fc.nat(4), fc.nat(5000)), { maxLength: 4 }), {
    maxLength: 12,
    size: 'max',
  })
  fc.assert(
    fc.property(anyLists, (lists) => {
      const { numberOf, sets } = sameSets()
      const numbers = lists.map((list) => numberOf(Int32Array.from(list)))
      const textOf = (list: readonly number[]): string => [...new Set(list)].toSorted((a, b) => a - b).join()
      const texts = [...new Set(lists.map(textOf))]
      expect(numbers).toEqual(lists.map((list) => texts.indexOf(textOf(list))))
      expect(sets.map(textOf)).toEqual(texts)
      expect(sets.map(({ length }) => length)).toEqual(sets.map((set) => new Set(set).size))
    }),
  )
})

it('tells apart what has the same digest', () => {
  const { numberOf } = sameSets()
  const lists = Array.from({ length: 400 }, (_, a) =>
    Array.from({ length: 400 }, (_, b) => [a, 400 + b]),
  ).flat()
  const numbers = lists.map((list) => numberOf(Int32Array.from(list)))
  expect(new Set(numbers).size).toBe(lists.length)
})
