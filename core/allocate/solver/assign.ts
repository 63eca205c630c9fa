/**
 * One column for each row, no column twice, at the least sum (the Hungarian method, row by row along shortest
 * ways). There are at least as many columns as rows.
 *
 * @param costs By row and column. Whole numbers of any size, so that ranked terms fit into one.
 * @returns The column of each row.
 * @throws RangeError where there are more rows than columns.
 */
export function assign(costs: ReadonlyArray<readonly bigint[]>): number[] {
  const columns = costs[0]?.length ?? 0
  if (costs.length > columns) throw new RangeError('There are more rows than columns.')
  const rowPrice = costs.map(() => 0n)
  const columnPrice = new Array<bigint>(columns + 1).fill(0n)
  /** The row that has each column; the last column is where each new row starts. */
  const holder = new Array<number>(columns + 1).fill(-1)
  const start = columns
  costs.forEach((_, row) => {
    holder[start] = row
    const least = new Array<bigint | null>(columns).fill(null)
    const from = new Array<number>(columns).fill(start)
    const isDone = new Array<boolean>(columns + 1).fill(false)
    let at = start
    while (holder[at] !== -1) {
      isDone[at] = true
      const here = holder[at] ?? 0
      let next = -1
      for (let column = 0; column < columns; column++) {
        if (isDone[column]) continue
        const cost = (costs[here]?.[column] ?? 0n) - (rowPrice[here] ?? 0n) - (columnPrice[column] ?? 0n)
        const before = least[column] ?? null
        if (before === null || cost < before) {
          least[column] = cost
          from[column] = at
        }
        if (next < 0 || (least[column] ?? 0n) < (least[next] ?? 0n)) next = column
      }
      const step = least[next] ?? 0n
      for (let column = 0; column <= columns; column++) {
        if (isDone[column]) {
          const held = holder[column] ?? 0
          rowPrice[held] = (rowPrice[held] ?? 0n) + step
          columnPrice[column] = (columnPrice[column] ?? 0n) - step
        } else if (column < columns) {
          const known = least[column] ?? null
          if (known !== null) least[column] = known - step
        }
      }
      at = next
    }
    while (at !== start) {
      const before = from[at] ?? start
      holder[at] = holder[before] ?? -1
      at = before
    }
    holder[start] = -1
  })
  const found = new Array<number>(costs.length).fill(-1)
  for (let column = 0; column < columns; column++) {
    const row = holder[column] ?? -1
    if (row >= 0) found[row] = column
  }
  return found
}
