import { partOf, sendersIn, type Occupancy } from '../../addresses'
import type { Id } from '../../rig'
import { contextOf } from '../context'
import type { IslandOf } from './island'

/** Some controllers with all that they send. */
export function controllersWithin(whole: Occupancy, ids: ReadonlySet<Id>) {
  const { rig } = whole
  const senders = rig.controllers.flatMap((controller, position) =>
    controller.inUse && ids.has(controller.id) ? sendersIn(controller, position) : [],
  )
  const controllers = rig.controllers.filter(({ id }) => ids.has(id))
  return contextOf(rig, { occupancy: partOf(whole, senders), controllers })
}

/** The controllers that a change touches, whole. */
export const controllerIsland: IslandOf = ({ before, after, change }) => ({
  before: controllersWithin(before, change.controllers),
  after: controllersWithin(after, change.controllers),
})
