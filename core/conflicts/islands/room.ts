import { isWanting, sendersIn, type Sender } from '../../addresses'
import type { Rig } from '../../rig'
import { contextOf } from '../context'
import type { IslandOf } from './island'

const known = new WeakMap<readonly Sender[], boolean>()

function hasWanting(senders: readonly Sender[]): boolean {
  const before = known.get(senders)
  if (before !== undefined) return before
  const found = senders.some(isWanting)
  known.set(senders, found)
  return found
}

const isWanted = (rig: Rig): boolean =>
  rig.controllers.some(
    (controller, position) => controller.inUse && hasWanting(sendersIn(controller, position)),
  )

/** The whole rig, as long as anything in it wants a number: what is free depends on everyone. */
export const roomIsland: IslandOf = ({ before, after }) =>
  isWanted(before.rig) || isWanted(after.rig)
    ? { before: 'all', after: contextOf(after.rig, { occupancy: after }) }
    : null
