import type { RigEdit } from '../edits'
import { mappingsOf } from '../lookup'
import { assignmentsOf, placeRef, type Place } from '../places'
import type { Controller, Message, Rig } from '../types'
import { programmedOver, turnOff } from './bulk'

/** Messages that are played rather than joined to a parameter. */
const isPlayed = ({ kind }: Message): boolean =>
  kind === 'note' || kind === 'polyPressure' || kind === 'pitchBend' || kind === 'channelPressure'

/** Where a controller sends something that moves nothing, chooses nothing and is not played. */
export function unusedPlaces(rig: Rig, controller: Controller): Place[] {
  const choosing = new Set(rig.choices.flatMap(({ by }) => (by.kind === 'gesture' ? [by.gesture] : [])))
  return [...assignmentsOf(controller)].flatMap(({ place, assignment }) => {
    const ref = placeRef(place)
    const isUsed =
      assignment.pinned ||
      choosing.has(ref) ||
      mappingsOf(rig, ref).length > 0 ||
      assignment.messages.some((message) => message.kind === 'off' || isPlayed(message))
    return isUsed ? [] : [place]
  })
}

/** Edits that make everything unused on a controller send nothing. Pinned assignments stay. */
export const turnOffUnused = (rig: Rig, controller: Controller): RigEdit[] =>
  turnOff(programmedOver(rig, unusedPlaces(rig, controller)))
