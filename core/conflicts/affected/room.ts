import { isWanting, sendersIn, type Sender } from '../../addresses'
import { memoOf, type Rig } from '../../rig'
import { contextOf } from '../context'
import type { AffectedScopeOf } from './scope'

const hasWanting = memoOf((senders: readonly Sender[]) => senders.some(isWanting))

const isWanted = (rig: Rig): boolean =>
  rig.controllers.some(
    (controller, position) => controller.inUse && hasWanting(sendersIn(rig, controller, position)),
  )

/** The whole rig, as long as anything in it wants a number: what is free depends on everyone. */
export const roomAffected: AffectedScopeOf = ({ before, after }) =>
  isWanted(before.rig) || isWanted(after.rig)
    ? { before: 'all', after: contextOf(after.rig, { occupancy: after }) }
    : null
