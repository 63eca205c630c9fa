import type { Program } from './program'

/** The same program, with a row that says between what its costs may come to. Costs are whole: half of one is left to rounding. */
export function within(program: Program, least: number, most: number): Program {
  const { costs, starts, rows, values } = program
  const row = program.most.length
  const columns = costs.length
  const costing = costs.reduce((count, cost) => count + (cost === 0 ? 0 : 1), 0)
  const added = {
    starts: new Int32Array(columns + 1),
    rows: new Int32Array(rows.length + costing),
    values: new Float64Array(rows.length + costing),
  }
  let entries = 0
  for (let column = 0; column < columns; column++) {
    const [from, to] = [starts[column] ?? 0, starts[column + 1] ?? 0]
    added.rows.set(rows.subarray(from, to), entries)
    added.values.set(values.subarray(from, to), entries)
    entries += to - from
    const cost = costs[column] ?? 0
    if (cost !== 0) {
      added.rows[entries] = row
      added.values[entries++] = cost
    }
    added.starts[column + 1] = entries
  }
  return {
    costs,
    ...added,
    most: Float64Array.of(...program.most, most + 0.5),
    least: Float64Array.of(...program.least, least - 0.5),
  }
}
