import { assign } from './assign'
import { TERMS, type Score } from './problem'

/** Scores as one number each, in the order of their terms; sums of so many of them keep their order. */
function ranked(scores: ReadonlyArray<readonly Score[]>): bigint[][] {
  const bases = TERMS.map((term) => {
    const most = scores.map((row) => row.reduce((high, score) => Math.max(high, score[term]), 0))
    return BigInt(most.reduce((sum, each) => sum + each, 0) + 1)
  })
  return scores.map((row) =>
    row.map((score) =>
      TERMS.reduce((sum, term, index) => sum * (bases[index] ?? 1n) + BigInt(score[term]), 0n),
    ),
  )
}

/**
 * The field of each group at the least sum of scores; of equals the lower field for the earlier group. Where there are
 * more groups than fields, none is shared by more groups than another has to be.
 */
export function fieldsFor(scores: ReadonlyArray<readonly Score[]>, fields: number): number[] {
  const turns = Math.ceil(scores.length / fields)
  const base = BigInt(fields)
  const last = scores.length - 1
  const rows = ranked(scores)
  const order = base ** BigInt(scores.length)
  const most = rows.flat().reduce((high, each) => (each > high ? each : high), 0n)
  /** More than all groups together can score: a field that is shared weighs more than any score. */
  const shared = (most + 1n) * order * BigInt(scores.length)
  const costs = rows.map((row, group) =>
    Array.from({ length: fields * turns }, (_, column) => {
      const field = column % fields
      const turn = BigInt(Math.floor(column / fields))
      return turn * shared + (row[field] ?? 0n) * order + BigInt(field) * base ** BigInt(last - group)
    }),
  )
  return assign(costs).map((column) => column % fields)
}

/**
 * A field for each group by size: the largest first, each to the field that has most room left. `room` says how much
 * there is of it in each.
 */
export function fieldsBySize(sizes: readonly number[], room: readonly number[]): number[] {
  const left = [...room]
  const found = sizes.map(() => 0)
  const order = sizes.map((_, group) => group).toSorted((a, b) => (sizes[b] ?? 0) - (sizes[a] ?? 0) || a - b)
  for (const group of order) {
    const field = left.reduce((best, each, index) => (each > (left[best] ?? 0) ? index : best), 0)
    found[group] = field
    left[field] = (left[field] ?? 0) - (sizes[group] ?? 0)
  }
  return found
}
