import { sentByAll, type Hit } from '../addresses'
import { placeKey, type Rig } from '../rig'

/** How a number of a channel stands: who sends it is gone, new, another one, or the same as before. */
export type CellState = 'gone' | 'new' | 'changed' | 'same'

/** One number of one channel that something sends, or sent. */
export interface CellChange {
  family: 'cc' | 'note'
  /** 1–16. */
  channel: number
  /** 0–127. */
  number: number
  state: CellState
}

/** Who sends at a number, for comparing. */
const sendersOf = (hits: readonly Hit[]): string =>
  [...new Set(hits.map(({ sender: { place } }) => placeKey(place)))].sort().join(' ')

type Sent = Map<string, Omit<CellChange, 'state'> & { by: string }>

function sentIn(rig: Rig): Sent {
  const sent: Sent = new Map()
  for (const cells of sentByAll(rig).cells.values()) {
    for (const hits of cells.values()) {
      const [first] = hits
      if (!first) continue
      const { kind, channel, number } = first.cell
      if (kind !== 'cc' && kind !== 'note') continue
      sent.set(`${kind} ${channel} ${number}`, { family: kind, channel, number, by: sendersOf(hits) })
    }
  }
  return sent
}

/** Every number that controllers send in one rig or the other, with how it stands, by family, channel and number. */
export function cellChanges(before: Rig, after: Rig): CellChange[] {
  const [was, is] = [sentIn(before), sentIn(after)]
  const stateOf = (key: string): CellState => {
    const [old, now] = [was.get(key), is.get(key)]
    if (!old) return 'new'
    if (!now) return 'gone'
    return old.by === now.by ? 'same' : 'changed'
  }
  return [...new Map([...was, ...is])]
    .map(([key, { family, channel, number }]) => ({ family, channel, number, state: stateOf(key) }))
    .sort((a, b) => a.family.localeCompare(b.family) || a.channel - b.channel || a.number - b.number)
}
