import { partOf } from '../../addresses'
import { contextOf } from '../context'
import { sendersByGesture } from '../../mappings'
import type { IslandOf } from './island'

/** All gestures that share on purpose, where a change touches one of them. */
export const accordIsland: IslandOf = ({ after, change }) => {
  const { rig } = after
  const gestures = new Set(rig.accords.flatMap((accord) => accord.gestures))
  if (![...change.gone, ...change.come].some(({ gesture }) => gestures.has(gesture))) return null
  const senders = [...sendersByGesture(rig, gestures).values()].flat()
  return { before: 'all', after: contextOf(rig, { occupancy: partOf(after, senders) }) }
}
