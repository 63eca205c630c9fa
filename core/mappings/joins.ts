import { CHANNELS } from '../midi'
import { hitsAt, sendersIn, type CellAddress, type Hit, type Occupancy, type Sender } from '../addresses'
import { arrivedAs } from './arrival'
import { expectedOf, mappingParameter, meetsExpected, type Expected } from './agreement'
import {
  channelOf,
  rigIndex,
  splitGestureRef,
  type Destination,
  type GestureRef,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'

/** A mapping with what it rests on: where its parameter listens, who its control is, and what of it fits. */
export interface Join {
  mapping: Mapping
  destination: Destination
  parameter: Parameter
  expected: Expected | null
  /** What its control sends, over all templates and layers; empty if it is gone or put away. */
  senders: readonly Sender[]
  /** Those of them that arrive where the parameter listens. */
  meeting: readonly Sender[]
}

/** Who sends for these gestures, in the order of the rig. */
export function sendersByGesture(
  rig: Rig,
  gestures: ReadonlySet<GestureRef>,
): ReadonlyMap<GestureRef, readonly Sender[]> {
  const owners = new Set([...gestures].map((gesture) => splitGestureRef(gesture).controller))
  const found = new Map<GestureRef, Sender[]>()
  rig.controllers.forEach((controller, position) => {
    if (!controller.inUse || !owners.has(controller.id)) return
    for (const sender of sendersIn(controller, position)) {
      if (!gestures.has(sender.gesture)) continue
      const list = found.get(sender.gesture)
      if (list) list.push(sender)
      else found.set(sender.gesture, [sender])
    }
  })
  return found
}

export function joinsOf(rig: Rig, mappings: readonly Mapping[] = rig.mappings): Join[] {
  const byGesture = sendersByGesture(rig, new Set(mappings.flatMap(({ gesture }) => gesture ?? [])))
  return mappings.flatMap((mapping): Join[] => {
    const target = mappingParameter(rig, mapping)
    if (!target) return []
    const expected = expectedOf(mapping, target.parameter)
    const senders = mapping.gesture === null ? [] : (byGesture.get(mapping.gesture) ?? [])
    const meeting = senders.filter((sender) => {
      const owner = rigIndex(rig).controllers.get(sender.place.controller)
      if (!expected || !owner) return false
      return arrivedAs(rig, owner, sender.message, mapping.destination).some((message) =>
        meetsExpected(message, channelOf(message, owner.homeChannel), expected),
      )
    })
    return [{ mapping, ...target, expected, senders, meeting }]
  })
}

const on = (expected: Expected, at: (channel: number) => CellAddress): CellAddress[] =>
  (expected.channel === null ? CHANNELS : [expected.channel]).map(at)

/** The cells that set an expected address off. Of a pair the first half does; of a span each key. */
export function cellsExpected(expected: Expected): CellAddress[] {
  const { target } = expected
  switch (target.kind) {
    case 'cc':
    case 'cc14':
    case 'mode':
      return on(expected, (channel) => ({ space: 'cc', channel, number: target.number }))
    case 'note':
    case 'poly':
      return Array.from({ length: target.high - target.low + 1 }, (_, index) => target.low + index).flatMap(
        (number) => on(expected, (channel) => ({ space: target.kind, channel, number })),
      )
    case 'program':
    case 'nrpn':
    case 'rpn':
      return on(expected, (channel) => ({ space: target.kind, channel, number: target.number }))
    case 'bend':
    case 'pressure':
      return on(expected, (channel) => ({ space: target.kind, channel, number: 0 }))
  }
}

/** Who sets a join off at its destination, whether meant or not. Carriers and second halves do not. */
export function hitsOn(occupancy: Occupancy, { destination, expected }: Join): Hit[] {
  if (!expected) return []
  const cells = cellsExpected(expected)
  return occupancy.buses
    .filter((bus) => bus.destination === destination.id)
    .flatMap((bus) => cells.flatMap((cell) => hitsAt(occupancy, bus, cell)))
    .filter(({ cell }) => cell.role !== 'carrier' && cell.part !== 'second')
}
