import type { Rig } from '../../rig'
import { contextOf } from '../context'
import type { AffectedScopeOf } from './scope'

/** The whole rig, as long as it has light roles: a light can meet every listener. */
export const lightsAffected: AffectedScopeOf = ({ before, after, change }) => {
  const hasRoles = ({ lightRoles }: Rig): boolean => lightRoles.length > 0
  const isTouched = change.removed.length + change.added.length + change.mappings.length > 0
  return isTouched && (hasRoles(before.rig) || hasRoles(after.rig))
    ? { before: 'all', after: contextOf(after.rig, { occupancy: after }) }
    : null
}
