import type { CellAddress, ChannelTarget } from '../midi'

export {
  CELL_KINDS,
  cellKey,
  cellOfKey,
  cellsOf,
  valuesOverlap,
  type Cell,
  type CellAddress,
  type CellKind,
  type Interval,
  type Role,
} from '../midi'

/** The address of a cell without its channel, to write as a tag. Programs are shown without bank. */
export function cellTarget({ kind, number }: Pick<CellAddress, 'kind' | 'number'>): ChannelTarget {
  switch (kind) {
    case 'note':
    case 'polyPressure':
      return { kind, low: number, high: number }
    case 'program':
      return { kind, number, bank: null }
    case 'pitchBend':
    case 'channelPressure':
      return { kind }
    case 'cc':
    case 'nrpn':
    case 'rpn':
      return { kind, number }
  }
}
