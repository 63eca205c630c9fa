import type { Bus, Cell } from '../addresses'

/** Cells, each as one number. */
export interface Takes {
  /** For itself alone. */
  own: readonly number[]
  /** Such as all senders of one controller take together: bend and pressure of a channel. */
  wide: readonly number[]
  /** What carries a parameter: shared among parameters, and nobody else may send it. */
  carried: readonly number[]
}

/**
 * What a message takes that arrives in some cells: those that may be there more than once only where it wants a number.
 *
 * @param cellId A cell of a bus as one number.
 */
export function takesOf(
  at: ReadonlyArray<{ bus: Bus; cells: readonly Cell[] }>,
  cellId: (bus: Bus, cell: Cell) => number,
  wantsNumber: boolean,
): Takes {
  const takes = { own: [] as number[], wide: [] as number[], carried: [] as number[] }
  for (const { bus, cells } of at)
    for (const cell of cells) {
      if (cell.role === 'main' || (cell.role === 'repeatable' && wantsNumber))
        takes.own.push(cellId(bus, cell))
      else if (cell.role === 'channel-wide') takes.wide.push(cellId(bus, cell))
      else if (cell.role === 'carrier') takes.carried.push(cellId(bus, cell))
    }
  return takes
}

/** Takes of several, as one. */
export const together = (all: readonly Takes[]): Takes =>
  all.length === 1 && all[0]
    ? all[0]
    : {
        own: all.flatMap(({ own }) => own),
        wide: all.flatMap(({ wide }) => wide),
        carried: all.flatMap(({ carried }) => carried),
      }
