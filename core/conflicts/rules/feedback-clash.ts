import { arrivingAlong, liveTogether, nextCables, portGraph, type CellAddress } from '../../addresses'
import { addressText, lightAddress, type LightAddress } from '../../lights/address'
import { expectedCovers, listenersOf } from '../../mappings'
import {
  assignmentsOf,
  freshMessage,
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
  type Message,
  type Model,
  type Place,
  type Rig,
} from '../../rig'
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

const known = new WeakMap<Controller, { model: Model; lights: readonly PlacedLight[] }>()

/** Every place of a controller in which a control with a light sends something, with the message that sets the light. */
function lightsOf(rig: Rig, controller: Controller): readonly PlacedLight[] {
  const model = modelOf(rig, controller)
  const before = known.get(controller)
  if (before?.model === model) return before.lights
  const lights = placedLights(rig, controller, model)
  known.set(controller, { model, lights })
  return lights
}

function placedLights(rig: Rig, controller: Controller, model: Model): PlacedLight[] {
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
  const groups = new Map<string, PlacedLight[]>()
  for (const light of lights) {
    const key = addressText(light.address)
    groups.set(key, [...(groups.get(key) ?? []), light])
  }
  return [...groups].flatMap(([tag, group]): Draft[] => {
    const clashing = group.filter((a) =>
      group.some(
        (b) =>
          b.control !== a.control && !showsOneState(a.light, b.light) && liveTogether(rig, a.place, b.place),
      ),
    )
    if (clashing.length === 0) return []
    return [
      {
        severity: 'error',
        message: `The lights of ${words(rig, clashing)} (${controller.name}) answer to one message, ${tag}, but are not to show the same.`,
        senders: [],
        addresses: [tag],
        destinations: [],
        about: `${controller.id} lights`,
        places: clashing.map(({ place }) => toFinding(place)),
        cures: { moves: [], share: false },
      },
    ]
  })
}

/** The ways that a message for the lights of a controller takes besides: on from its thru ports, and from where it came. */
function sideWays(rig: Rig, controller: Controller): Cable[][] {
  const graph = portGraph(rig)
  const inputs = new Set(controller.ports.filter(({ direction }) => direction === 'in').map(({ id }) => id))
  const into = rig.cables.filter(({ to }) => to.owner === controller.id && inputs.has(to.port))
  const starts = [
    ...into.flatMap((cable) => graph.cablesFrom(cable.from).filter((other) => other !== cable)),
    ...(into.length > 0 ? graph.onwardOf(controller.id).flatMap((at) => graph.cablesFrom(at)) : []),
  ]
  const ways: Cable[][] = []
  const open = starts.map((cable) => [cable])
  for (let way = open.pop(); way !== undefined; way = open.pop()) {
    const last = way.at(-1)
    if (!last) continue
    ways.push(way)
    for (const next of nextCables(graph, last)) if (!way.includes(next)) open.push([...way, next])
  }
  return ways
}

function messageFor({ kind, channel, number }: LightAddress): Message {
  return withNumber(withChannel(freshMessage(kind, 'button', 'press'), channel), number)
}

/** Light messages that also arrive where a parameter listens. */
function setOff(rig: Rig, controller: Controller, lights: readonly PlacedLight[]): Draft[] {
  const used = lights.filter(({ light }) => light !== null)
  if (used.length === 0) return []
  const { destinations } = rigIndex(rig)
  const graph = portGraph(rig)
  const found = new Map<Id, { lights: Set<PlacedLight>; names: Set<string> }>()
  for (const way of sideWays(rig, controller)) {
    const end = way.at(-1)
    if (!end) continue
    const owners = new Set([end.to, ...graph.openedAt(end.to)].map(({ owner }) => owner))
    const listeners = listenersOf(rig).filter(({ destination }) => owners.has(destination))
    for (const light of listeners.length > 0 ? used : []) {
      if (arrivingAlong(way, messageFor(light.address)).length === 0) continue
      const { kind: space, channel, number } = light.address
      const cell: CellAddress = { space, channel, number }
      for (const { destination, name, expected } of listeners) {
        if (!expectedCovers(expected, cell)) continue
        const entry = found.get(destination) ?? { lights: new Set(), names: new Set() }
        found.set(destination, entry)
        entry.lights.add(light)
        entry.names.add(name)
      }
    }
  }
  return [...found].map(([id, { lights: own, names }]): Draft => ({
    severity: 'error',
    message: `What sets the lights of ${words(rig, [...own])} (${controller.name}) also reaches ${destinations.get(id)?.name ?? ''} and moves ${shortListed([...names])}.`,
    senders: [],
    addresses: [...new Set([...own].map(({ address }) => addressText(address)))],
    destinations: [id],
    about: `${controller.id} ${id}`,
    places: [...own].map(({ place }) => toFinding(place)),
    cures: { moves: [], share: false },
  }))
}

/** Two lights answer to one message, or a message for a light moves something. */
export const feedbackClash: Rule = {
  id: 'feedback-clash',
  title: 'Lights that clash',
  reach: 'lights',
  find: ({ rig }) => {
    if (rig.lightRoles.length === 0) return []
    return rig.controllers.flatMap((controller): Draft[] => {
      if (!controller.inUse) return []
      const lights = lightsOf(rig, controller)
      return [...sharedMessages(rig, controller, lights), ...setOff(rig, controller, lights)]
    })
  },
}
