import type { Sender } from '../addresses'
import {
  channelOf,
  findGesture,
  rigIndex,
  type Destination,
  type Message,
  type Parameter,
  type Rig,
} from '../rig'
import { travelOf, type Travel } from '../values'
import { meetsExpected } from './agreement'
import { arrivedAs } from './arrival'
import type { Join } from './joins'

/** One message that moves a mapping's parameter: as it arrives, and what its control makes it do. */
export interface Drive {
  sender: Sender
  message: Message
  travel: Travel
}

/** What moves the parameter of a join, over all templates and layers. */
export function drivesOf(rig: Rig, { mapping, expected, meeting }: Join): Drive[] {
  return meeting.flatMap((sender): Drive[] => {
    const owner = rigIndex(rig).controllers.get(sender.place.controller)
    const found = findGesture(rig, sender.gesture)
    if (!owner || !found || !expected) return []
    return arrivedAs(rig, owner, sender.message, mapping.destination)
      .filter((message) => meetsExpected(message, channelOf(message, owner.homeChannel), expected))
      .map((message) => ({ sender, message, travel: travelOf(message, found.control) }))
  })
}

/** Can a parameter that is relative to a selection be this one at times? */
export const standsFor = (relative: Parameter, other: Parameter): boolean =>
  relative.kind === 'relative' && other.kind !== 'relative' && relative.standsFor === other.name

/** One name for all mappings that may move the same thing: those of a parameter, and of what stands for it. */
export const drivenGroups = (
  { id }: Destination,
  { id: parameter, name, kind, standsFor: stands }: Parameter,
): string[] => [`${id}/${parameter}`, `${id} ${kind === 'relative' ? (stands ?? '') : name}`]
