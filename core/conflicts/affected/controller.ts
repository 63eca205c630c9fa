import { partOf, sendersIn, type Occupancy } from '../../addresses'
import type { Id } from '../../rig'
import { contextOf } from '../context'
import type { AffectedScopeOf } from './scope'

/** Some controllers with all that they send. */
export function controllersWithin(whole: Occupancy, ids: ReadonlySet<Id>) {
  const { rig } = whole
  // Few rules look at what they send: it is gone through when one does.
  const senders = {
    *[Symbol.iterator]() {
      for (const [position, controller] of rig.controllers.entries())
        if (controller.inUse && ids.has(controller.id)) yield* sendersIn(rig, controller, position)
    },
  }
  const controllers = rig.controllers.filter(({ id }) => ids.has(id))
  return contextOf(rig, { occupancy: partOf(whole, senders), controllers })
}

/** The controllers that a change touches, whole. */
export const controllerAffected: AffectedScopeOf = ({ before, after, change }) => ({
  before: controllersWithin(before, change.controllers),
  after: controllersWithin(after, change.controllers),
})
