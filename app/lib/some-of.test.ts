import { expect, it } from 'vitest'
import { someOf } from './some-of'

it('says the first names, and how many more there are', () => {
  expect(someOf([], 2)).toBe('')
  expect(someOf(['a', 'b'], 2)).toBe('a, b')
  expect(someOf(['a', 'b', 'c'], 2)).toBe('a, b and 1 more')
})
