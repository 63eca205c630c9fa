import { deliveryOf, landedAt, matchOf, type Bus } from '../../addresses'
import { chartedAt, listeningOf } from '../../mappings'
import type { Address, SentMessage } from '../../midi'
import {
  parameterOf,
  rigIndex,
  splitGestureRef,
  type Destination,
  type GestureRef,
  type Mapping,
  type Parameter,
  type Rig,
} from '../../rig'
import type { TraceFrom } from './walk'
import { spoken } from './spoken'

/** A parameter that a message may come to, and the mapping by which it listens; null by its chart alone. */
export interface Target {
  destination: Destination
  parameter: Parameter
  mapping: Mapping | null
}

/** The parameters that a gesture is joined to, and those that listen where it lands though it is not. */
export function targetsOf(rig: Rig, from: TraceFrom, ref: GestureRef): Target[] {
  const joined = rig.mappings
    .filter(({ gesture }) => gesture === ref)
    .flatMap((mapping): Target[] => {
      const destination = rigIndex(rig).destinations.get(mapping.destination)
      const parameter = destination && parameterOf(destination, mapping.parameter)
      return destination && parameter ? [{ destination, parameter, mapping }] : []
    })
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const messages = spoken({ rig, stations: [], broken: null }, from, ref) ?? []
  const strangers = controller
    ? messages.flatMap((message) =>
        deliveryOf(rig)
          .arrivals(controller.id, message)
          .flatMap(({ bus, messages: arrived }) => strangersAt(rig, ref, bus, arrived)),
      )
    : []
  // What listens by its chart does so once, whoever is joined to it; what was taught, once for each mapping.
  const keyOf = ({ destination, parameter, mapping }: Target): string =>
    `${destination.id}/${parameter.id}/${chartedAt(parameter) ? '' : (mapping?.id ?? '')}`
  const known = new Set(joined.map(keyOf))
  return [...joined, ...strangers.filter((target) => !known.has(keyOf(target)) && known.add(keyOf(target)))]
}

/** What listens where messages land, and belongs to another control or to none. */
function strangersAt(rig: Rig, ref: GestureRef, bus: Bus, messages: readonly SentMessage[]): Target[] {
  const destination = rigIndex(rig).destinations.get(bus.destination)
  if (!destination) return []
  const landed = messages.flatMap(landedAt)
  const isMet = (address: Address): boolean =>
    landed.some((each) => matchOf(address, each, bus.mergesChannels) !== null)
  const charted = destination.parameters.flatMap((parameter): Target[] => {
    const listening = chartedAt(parameter)
    return listening && isMet(listening.address) ? [{ destination, parameter, mapping: null }] : []
  })
  const learned = rig.mappings.flatMap((mapping): Target[] => {
    if (mapping.destination !== destination.id || mapping.gesture === ref) return []
    const parameter = parameterOf(destination, mapping.parameter)
    const listening = parameter && listeningOf(mapping, parameter)
    return parameter && listening?.by === 'learning' && isMet(listening.address)
      ? [{ destination, parameter, mapping }]
      : []
  })
  return [...charted, ...learned]
}
