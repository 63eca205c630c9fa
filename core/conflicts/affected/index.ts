import type { RuleReach } from '../rule'
import { accordAffected } from './accord'
import { cableAffected } from './cable'
import { cellsAffected } from './cells'
import { channelAffected } from './channel'
import { controllerAffected } from './controller'
import type { AffectedScopeOf } from './scope'
import { lightsAffected } from './lights'
import { mappingAffected } from './mapping'
import { roomAffected } from './room'

export type { Changed, AffectedScope } from './scope'

/** What rules of each reach have to look at again after a change of senders. */
export const AFFECTED: Readonly<Record<RuleReach, AffectedScopeOf>> = {
  cells: cellsAffected,
  channel: channelAffected,
  mapping: mappingAffected,
  controller: controllerAffected,
  cable: cableAffected,
  accord: accordAffected,
  room: roomAffected,
  lights: lightsAffected,
  wiring: () => null,
}
