import { partOf } from '../../addresses'
import { contextOf } from '../context'
import { sendersOfGesture } from '../../mappings'
import type { AffectedScopeOf } from './scope'

/** All gestures that share on purpose, where a change touches one of them. */
export const accordAffected: AffectedScopeOf = ({ after, change }) => {
  const { rig } = after
  const gestures = new Set(rig.accords.flatMap((accord) => accord.gestures))
  if (![...change.removed, ...change.added].some(({ gesture }) => gestures.has(gesture))) return null
  const senders = [...gestures].flatMap((gesture) => sendersOfGesture(rig, gesture))
  return { before: 'all', after: contextOf(rig, { occupancy: partOf(after, senders) }) }
}
