import { startedDestination, type DestinationStarter } from './destination-starters'
import { perform, type RigEdit } from './edits'
import { freeDeviceName, newController } from './fresh'
import { firstNumbers, silentGestures, type FirstSending } from './program/first-numbers'
import type { Controller, Destination, Id, Model, Rig } from './types'
import { isJoined, waysToJoin } from './ways'

/** Something new with all that comes with it, to be added as one step. */
export interface Started {
  id: Id
  name: string
  edits: readonly RigEdit[]
  /** How it is joined to what is there, as words; null where nothing or more than one way made sense. */
  joined: string | null
  /** Ways that could be taken, where there are several. */
  ways: number
}

/** Joined where only one way makes sense. */
function joinedIfSure(rig: Rig, id: Id): { edits: readonly RigEdit[]; joined: string | null; ways: number } {
  const ways = waysToJoin(rig, id)
  const [only] = ways
  return ways.length === 1 && only
    ? { edits: only.edits, joined: only.name, ways: 1 }
    : { edits: [], joined: null, ways: ways.length }
}

/** A new controller whose controls send at once, joined where only one way makes sense. */
export function startController(
  rig: Rig,
  name: string,
  surface: Model['surface'],
  sending: FirstSending,
): Started & { given: number; left: number } {
  const { controller, model } = newController(rig, freeDeviceName(rig, name), surface)
  const add: RigEdit = { type: 'controller-add', controller, model }
  const added = perform(rig, 'Add', [add]).rig
  const { edits: numbers, given, left } = firstNumbers(added, controller, sending)
  const { edits: cables, ...how } = joinedIfSure(added, controller.id)
  return {
    id: controller.id,
    name: controller.name,
    edits: [add, ...numbers, ...cables],
    ...how,
    given,
    left,
  }
}

/** A new destination, joined where only one way makes sense. */
export function startDestination(
  rig: Rig,
  starter: DestinationStarter,
  sizes: Readonly<Record<string, number>>,
  name: string,
): Started {
  const destination = startedDestination(rig, starter, sizes, name)
  const add: RigEdit = { type: 'destination-add', destination }
  const { edits: cables, ...how } = joinedIfSure(perform(rig, 'Add', [add]).rig, destination.id)
  return { id: destination.id, name: destination.name, edits: [add, ...cables], ...how }
}

/** What makes a rig of nothing into one that can be played, in the order in which it is done. */
export type FirstStep =
  | { id: 'controllers'; isDone: boolean }
  | { id: 'destinations'; isDone: boolean }
  /** `open` are joined to nothing. */
  | { id: 'cables'; isDone: boolean; open: ReadonlyArray<Controller | Destination> }
  /** `silent` send nothing at all; how many of their controls could. */
  | { id: 'numbers'; isDone: boolean; silent: ReadonlyArray<{ controller: Controller; count: number }> }
  | { id: 'join'; isDone: boolean }

/** How far a rig is. Controllers that are put away do not count. */
export function firstSteps(rig: Rig): FirstStep[] {
  const controllers = rig.controllers.filter(({ inUse }) => inUse)
  const open = [...controllers, ...rig.destinations].filter(({ id }) => !isJoined(rig, id))
  const silent = controllers.flatMap((controller) => {
    const count = silentGestures(rig, controller).length
    const sends = controller.templates.some(
      ({ base, stacks }) =>
        Object.keys(base).length > 0 ||
        stacks.some(({ layers }) => layers.some(({ assignments }) => Object.keys(assignments).length > 0)),
    )
    return count > 0 && !sends ? [{ controller, count }] : []
  })
  const [hasControllers, hasDestinations] = [rig.controllers.length > 0, rig.destinations.length > 0]
  return [
    { id: 'controllers', isDone: hasControllers },
    { id: 'destinations', isDone: hasDestinations },
    { id: 'cables', isDone: hasControllers && hasDestinations && open.length === 0, open },
    { id: 'numbers', isDone: hasControllers && silent.length === 0, silent },
    { id: 'join', isDone: rig.mappings.length > 0 },
  ]
}
