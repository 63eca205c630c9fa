import { partOf } from '../../addresses'
import { contextOf } from '../context'
import { sendersOfGesture } from '../../mappings'
import type { AffectedScopeOf } from './scope'

/** All gestures that share on purpose, where a change touches one of them. */
export const accordAffected: AffectedScopeOf = ({ after, change }) => {
  const { rig } = after
  const gestures = new Set(rig.accords.flatMap((accord) => accord.gestures))
  // A mapping can be of a control that sends nothing, and is shared on purpose with one that sets it off.
  const isTouched = [...change.removed, ...change.added, ...change.mappings].some(
    ({ gesture }) => gesture !== null && gestures.has(gesture),
  )
  if (!isTouched) return null
  const senders = [...gestures].flatMap((gesture) => sendersOfGesture(rig, gesture))
  return { before: 'all', after: contextOf(rig, { occupancy: partOf(after, senders) }) }
}
