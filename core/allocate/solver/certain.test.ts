import { expect, it } from 'vitest'
import { certainBeside, certainOfErrors } from './certain'
import { noScore, TERMS } from './problem'

it('is certain of what cannot be less, where nothing but the errors is known', () => {
  const score = { ...noScore(), errors: 4, stale: 2, rank: 7 }
  expect(certainOfErrors(3, score)).toEqual({ proven: [], bound: { term: 'errors', value: 3 } })
  expect(certainOfErrors(4, score)).toEqual({
    proven: ['errors', 'unmet'],
    bound: { term: 'stale', value: 0 },
  })
  expect(certainOfErrors(4, { ...noScore(), errors: 4 })).toEqual({ proven: TERMS, bound: null })
})

it('is certain of a term only as long as all before it are as low as with more freedom', () => {
  const freer = { score: { ...noScore(), stale: 2, warnings: 5 }, proven: TERMS, bound: null }
  expect(certainBeside(freer, { ...noScore(), stale: 3, warnings: 5 })).toEqual({
    proven: ['errors', 'unmet'],
    bound: { term: 'stale', value: 2 },
  })
  expect(certainBeside(freer, { ...noScore(), stale: 2, warnings: 6 })).toEqual({
    proven: ['errors', 'unmet', 'stale'],
    bound: { term: 'warnings', value: 5 },
  })
  const open = { ...freer, proven: TERMS.slice(0, 2), bound: { term: 'stale' as const, value: 1 } }
  expect(certainBeside(open, { ...noScore(), stale: 1, warnings: 9 })).toEqual({
    proven: ['errors', 'unmet', 'stale'],
    bound: { term: 'warnings', value: 0 },
  })
})
