import { arrivalMatch, flowAlong, livenessOf, placedAt, type Delivery } from '../../addresses'
import { distinctAddresses, printTag, type Address, type SentMessage } from '../../midi'
import { lightAddress, toAddress, type LightAddress } from '../../lights/address'
import { listenersOf } from '../../mappings'
import {
  assignmentsOf,
  freshMessage,
  memo,
  modelOf,
  placeName,
  powerUpShowing,
  rigIndex,
  splitGestureKey,
  controlsOf,
  withChannel,
  withNumber,
  type Assignment,
  type Cable,
  type Controller,
  type Id,
  type Model,
  type Place,
  type Rig,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, FindingPlace } from '../finding'
import type { Rule } from '../rule'
import { shortListed } from '../words'

/** A light that is given a role somewhere, with the message that sets it there. */
interface PlacedLight {
  place: Place
  control: Id
  light: Assignment['light']
  address: LightAddress
}

function placedLights({
  rig,
  controller,
  model,
}: {
  rig: Rig
  controller: Controller
  model: Model
}): PlacedLight[] {
  const { abilities } = model
  if (!abilities.lights || abilities.lights.setBy.kind === 'fixed') return []
  const controls = controlsOf(model)
  return [...assignmentsOf(controller)].flatMap(({ place, assignment }): PlacedLight[] => {
    const { control: id } = splitGestureKey(place.gesture)
    const control = controls.get(id)
    if (!control || `${id}.${control.gestures[0]}` !== place.gesture) return []
    if ((abilities.lights?.levels[control.kind] ?? 'none') === 'none') return []
    const showing = showingOf(controller, place)
    const address = lightAddress(rig, controller, showing, control)
    return address ? [{ place, control: id, light: assignment.light, address }] : []
  })
}

/** Every place of a controller in which a control with a light sends something, with the message that sets the light. */
const lightsOf = memo(
  ({ controller, model }: { rig: Rig; controller: Controller; model: Model }) => [controller, model],
  placedLights,
)

/** What a controller shows where a place is to be seen. */
function showingOf(controller: Controller, { template: id, layer }: Place) {
  const showing = powerUpShowing(controller, id)
  const stack = controller.templates
    .find((template) => template.id === id)
    ?.stacks.find(({ layers }) => layers.some((each) => each.id === layer))
  return stack ? { ...showing, layers: { ...showing.layers, [stack.id]: layer } } : showing
}

const showsOneState = (a: Assignment['light'], b: Assignment['light']): boolean =>
  JSON.stringify(a) === JSON.stringify(b)

const toFinding = (place: Place): FindingPlace => ({ ...place, message: 0 })
const words = (rig: Rig, lights: readonly PlacedLight[]): string =>
  shortListed([...new Set(lights.map(({ place }) => placeName(rig, place).gesture))])

/** Lights of one controller that answer to one message without showing one state. */
function sharedMessages(rig: Rig, controller: Controller, lights: readonly PlacedLight[]): Draft[] {
  const liveness = livenessOf(rig)
  const placed = new Map(lights.map((light) => [light, placedAt(rig, light.place)]))
  const live = (a: PlacedLight, b: PlacedLight): boolean => {
    const [one, other] = [placed.get(a), placed.get(b)]
    return one !== undefined && other !== undefined && liveness.together(one, other)
  }
  const groups = new Map<string, PlacedLight[]>()
  for (const light of lights) {
    const key = printTag(toAddress(light.address))
    groups.set(key, [...(groups.get(key) ?? []), light])
  }
  return [...groups].flatMap(([tag, group]): Draft[] => {
    const [first] = group
    const clashing = group.filter((a) =>
      group.some((b) => b.control !== a.control && !showsOneState(a.light, b.light) && live(a, b)),
    )
    if (clashing.length === 0 || !first) return []
    return [
      {
        severity: 'error',
        message: `The lights of ${words(rig, clashing)} (${controller.name}) answer to one message, ${tag}, but are not to show the same.`,
        senders: [],
        addresses: [toAddress(first.address)],
        destinations: [],
        about: `${controller.id} lights ${tag}`,
        places: clashing.map(({ place }) => toFinding(place)),
      },
    ]
  })
}

/**
 * The cables that a message for the lights of a controller takes besides: on from its thru ports, and from where it
 * came to others.
 */
function sideCables(rig: Rig, { graph }: Delivery, controller: Controller): Cable[] {
  const inputs = new Set(controller.ports.filter(({ direction }) => direction === 'in').map(({ id }) => id))
  const into = rig.cables.filter(({ to }) => to.owner === controller.id && inputs.has(to.port))
  return [
    ...into.flatMap((cable) => graph.cablesFrom(cable.from).filter((other) => other !== cable)),
    ...(into.length > 0 ? graph.onwardOf(controller.id).flatMap((at) => graph.cablesFrom(at)) : []),
  ]
}

const messageFor = ({ kind, channel, number }: LightAddress): SentMessage =>
  withNumber(withChannel(freshMessage(kind, 'button', 'press'), channel), number) as SentMessage

/** Light messages that also arrive where a parameter listens. */
function setOff(
  { rig, occupancy: { delivery } }: CheckContext,
  controller: Controller,
  lights: readonly PlacedLight[],
): Draft[] {
  const used = lights.filter(({ light }) => light !== null)
  const cables = used.length === 0 ? [] : sideCables(rig, delivery, controller)
  if (cables.length === 0) return []
  const { destinations } = rigIndex(rig)
  const byDestination = new Map<Id, Array<{ name: string; address: Address }>>()
  for (const { destination, name, address } of listenersOf(rig))
    byDestination.set(destination, [...(byDestination.get(destination) ?? []), { name, address }])
  const found = new Map<Id, { lights: Set<PlacedLight>; names: Set<string> }>()
  for (const light of used) {
    for (const { port, message } of flowAlong(delivery.graph, cables, messageFor(light.address)).states)
      for (const bus of delivery.busesAt(port))
        for (const { name, address } of byDestination.get(bus.destination) ?? []) {
          if (arrivalMatch(address, { bus, messages: [message] }) === null) continue
          const entry = found.get(bus.destination) ?? { lights: new Set(), names: new Set() }
          found.set(bus.destination, entry)
          entry.lights.add(light)
          entry.names.add(name)
        }
  }
  return [...found].map(([id, { lights: own, names }]): Draft => ({
    severity: 'error',
    message: `What sets the lights of ${words(rig, [...own])} (${controller.name}) also reaches ${destinations.get(id)?.name ?? ''} and moves ${shortListed([...names])}.`,
    senders: [],
    addresses: distinctAddresses([...own].map(({ address }) => toAddress(address))),
    destinations: [id],
    about: `${controller.id} ${id}`,
    places: [...own].map(({ place }) => toFinding(place)),
  }))
}

/** Two lights answer to one message, or a message for a light moves something. */
export const feedbackClash: Rule = {
  id: 'feedback-clash',
  title: 'Lights that clash',
  topic: 'values',
  reach: 'lights',
  find: (context) => {
    const { rig } = context
    if (rig.lightRoles.length === 0) return []
    return rig.controllers.flatMap((controller): Draft[] => {
      if (!controller.inUse) return []
      const lights = lightsOf({ rig, controller, model: modelOf(rig, controller) })
      return [...sharedMessages(rig, controller, lights), ...setOff(context, controller, lights)]
    })
  },
}
