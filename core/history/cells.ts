import { cellTarget, sentByAll, type CellAddress, type Hit } from '../addresses'
import { printTag } from '../midi'
import { placeKey, type Rig } from '../rig'

/** How a number of a channel stands: who sends it is gone, new, another one, or the same as before. */
export type CellState = 'gone' | 'new' | 'changed' | 'same'

/** One spot of the lattice that something sends to, or sent to. */
export interface CellChange extends CellAddress {
  /** Its address, as a tag. */
  tag: string
  state: CellState
}

/** Who sends at a number, for comparing. */
const sendersOf = (hits: readonly Hit[]): string =>
  [...new Set(hits.map(({ sender: { place } }) => placeKey(place)))].sort().join(' ')

type Sent = Map<number, { cell: CellAddress; by: string }>

function sentIn(rig: Rig): Sent {
  const sent: Sent = new Map()
  for (const cells of sentByAll(rig).cells.values()) {
    for (const [key, hits] of cells) {
      const [first] = hits
      if (first) sent.set(key, { cell: first.cell, by: sendersOf(hits) })
    }
  }
  return sent
}

/** Every spot that controllers send to in one rig or the other, with how it stands, by kind, channel and number. */
export function cellChanges(before: Rig, after: Rig): CellChange[] {
  const [was, is] = [sentIn(before), sentIn(after)]
  const stateOf = (key: number): CellState => {
    const [old, now] = [was.get(key), is.get(key)]
    if (!old) return 'new'
    if (!now) return 'gone'
    return old.by === now.by ? 'same' : 'changed'
  }
  return [...new Map([...was, ...is])]
    .sort(([a], [b]) => a - b)
    .map(
      ([
        key,
        {
          cell: { kind, channel, number },
        },
      ]) => ({
        kind,
        channel,
        number,
        tag: printTag({ scope: 'channel', channel, target: cellTarget({ kind, number }) }),
        state: stateOf(key),
      }),
    )
}
