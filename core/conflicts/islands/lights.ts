import type { Rig } from '../../rig'
import { contextOf } from '../context'
import type { IslandOf } from './island'

/** The whole rig, as long as it has light roles: a light can meet every listener. */
export const lightsIsland: IslandOf = ({ before, after, change }) => {
  const hasRoles = ({ lightRoles }: Rig): boolean => lightRoles.length > 0
  const isTouched = change.gone.length + change.come.length + change.mappings.length > 0
  return isTouched && (hasRoles(before.rig) || hasRoles(after.rig))
    ? { before: 'all', after: contextOf(after.rig, { occupancy: after }) }
    : null
}
