import type { RuleReach } from '../rule'
import { accordIsland } from './accord'
import { cableIsland } from './cable'
import { cellsIsland } from './cells'
import { channelIsland } from './channel'
import { controllerIsland } from './controller'
import type { IslandOf } from './island'
import { lightsIsland } from './lights'
import { mappingIsland } from './mapping'
import { numberIsland } from './number'
import { roomIsland } from './room'

export type { Changed, Island } from './island'

/** What rules of each reach have to look at again after a change of senders. */
export const ISLANDS: Readonly<Record<RuleReach, IslandOf>> = {
  cells: cellsIsland,
  channel: channelIsland,
  number: numberIsland,
  mapping: mappingIsland,
  controller: controllerIsland,
  cable: cableIsland,
  accord: accordIsland,
  room: roomIsland,
  lights: lightsIsland,
  wiring: () => null,
}
