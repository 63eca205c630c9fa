import { isChannelMessage, type ChannelAddress, type ChannelMessage, type SentMessage } from '../midi'
import {
  memo,
  memoOf,
  portKey,
  stableList,
  type Cable,
  type Controller,
  type Id,
  type PortRef,
  type Rig,
} from '../rig'
import { busesOf, ownerOf, type Bus } from './buses'
import { isPlainCable, looksAtNumbers } from './cables'
import { flowOf, seenByCables, type Flow, type FlowEdge, type FlowState } from './flow'
import { portGraph, type PortGraph } from './graph'

/** What of a message arrives at a bus: the message itself, or what cables made of it. Some of it may not be heard. */
export interface Arrival {
  bus: Bus
  messages: readonly SentMessage[]
}

/** Where messages of controllers go: the one answer to what arrives. */
export interface Delivery {
  buses: readonly Bus[]
  graph: PortGraph
  /** Of one message, whose channel must be a number, not home. */
  arrivals: (controller: Id, message: SentMessage) => readonly Arrival[]
  /** The buses of controllers whose every message arrives everywhere as it is sent. */
  open: ReadonlyMap<Id, readonly Bus[]>
  /** The buses that the cables of a controller lead to, whatever their rules stop. */
  busesFrom: (controller: Id) => readonly Bus[]
  /** The cables that what a controller sends may pass. */
  cablesFrom: (controller: Id) => readonly Cable[]
  /** Do rules of cables that what a controller sends may pass look at numbers? Else all of a kind and channel go the same ways. */
  looksAtNumbers: (controller: Id) => boolean
  /** Every form in which a message goes everywhere, for those who look at the ways themselves. */
  flows: (controller: Id, message: SentMessage) => readonly Flow[]
  /** The buses that something hears which arrives at a port. */
  busesAt: (port: PortRef) => readonly Bus[]
}

/** A message that stands for any where no rule looks at it. */
const PROBE: SentMessage = { kind: 'realtime', moment: 'move', command: 'reset' }

/** The graph without rules: where anything could go. */
const withoutRules = (graph: PortGraph): PortGraph => {
  const bare = new Map<Cable, Cable>()
  return {
    ...graph,
    cablesFrom: (at) =>
      graph.cablesFrom(at).map((cable) => {
        const known = bare.get(cable) ?? { ...cable, rules: [], otherwise: 'pass' as const }
        bare.set(cable, known)
        return known
      }),
  }
}

/** Is it several messages on several channels, which rules tell apart? */
const isZone = (message: ChannelMessage): boolean => 'keys' in message && message.keys.kind === 'zone'

/** So many states of flows are kept, about 10 MB; then they are forgotten. */
const MOST_KEPT_STATES = 20_000

interface Topology {
  buses: readonly Bus[]
  cables: readonly Cable[]
}

function deliver(rig: Rig): Delivery {
  const buses = busesOf(rig)
  const graph = portGraph(rig)
  const anywhere = withoutRules(graph)
  const cables = new Map(rig.cables.map((cable) => [cable.id, cable]))
  const listening = new Map<string, Bus[]>()
  for (const bus of buses) {
    const owner = ownerOf(rig, bus.destination)
    for (const port of bus.ports) {
      const key = portKey({ owner, port })
      listening.set(key, [...(listening.get(key) ?? []), bus])
    }
  }
  const busesAt = (port: PortRef): readonly Bus[] => listening.get(portKey(port)) ?? []
  const outputsOf = ({ id, ports, inUse }: Controller): PortRef[] =>
    inUse
      ? ports.flatMap(({ id: port, direction }) => (direction === 'out' ? [{ owner: id, port }] : []))
      : []
  const outputs = new Map(rig.controllers.map((controller) => [controller.id, outputsOf(controller)]))

  const topologies = new Map<Id, Topology>()
  const topologyOf = (id: Id): Topology => {
    const known = topologies.get(id)
    if (known) return known
    const { starts, states } = flowOf(anywhere, outputs.get(id) ?? [], PROBE)
    const edges = [...starts, ...states.flatMap(({ next }) => next)]
    const found = new Set(states.flatMap(({ port }) => busesAt(port)))
    const topology = {
      buses: buses.filter((bus) => found.has(bus)),
      cables: [...new Set(edges.flatMap(({ cable }) => (cable && cables.get(cable.id)) ?? []))],
    }
    topologies.set(id, topology)
    return topology
  }

  const open = new Map<Id, readonly Bus[]>()
  for (const { id } of rig.controllers) {
    const { buses: reached, cables: passed } = topologyOf(id)
    if (passed.every(isPlainCable)) open.set(id, reached)
  }

  const known = new Map<string, readonly Flow[]>()
  let keptStates = 0
  const flows = (id: Id, message: SentMessage): readonly Flow[] => {
    const key = `${id} ${JSON.stringify(message)}`
    const before = known.get(key)
    if (before) return before
    const found = seenByCables(message, topologyOf(id).cables).map((part) =>
      flowOf(graph, outputs.get(id) ?? [], part),
    )
    keptStates += found.reduce((sum, { states }) => sum + states.length, 0)
    if (keptStates > MOST_KEPT_STATES) {
      known.clear()
      keptStates = 0
    }
    known.set(key, found)
    return found
  }

  const numbered = new Map<Id, boolean>()
  const looksAt = (id: Id): boolean => {
    const before = numbered.get(id) ?? looksAtNumbers(topologyOf(id).cables)
    numbered.set(id, before)
    return before
  }
  // Where rules look at kinds and channels only, all numbers go the same ways, and as they are sent.
  const byKind = new Map<string, readonly Bus[]>()
  const busesOfKind = (id: Id, message: ChannelMessage): readonly Bus[] => {
    const key = `${id} ${message.kind} ${message.channel}`
    const known = byKind.get(key) ?? arrivalsOf(id, message).map(({ bus }) => bus)
    byKind.set(key, known)
    return known
  }
  const arrivals = (id: Id, message: SentMessage): readonly Arrival[] => {
    const all = open.get(id)
    if (all) return all.map((bus) => ({ bus, messages: [message] }))
    if (!isChannelMessage(message) || isZone(message) || looksAt(id)) return arrivalsOf(id, message)
    return busesOfKind(id, message).map((bus) => ({ bus, messages: [message] }))
  }
  const arrivalsOf = (id: Id, message: SentMessage): readonly Arrival[] => {
    const found = new Map<Bus, SentMessage[]>()
    for (const { states } of flows(id, message))
      for (const state of states)
        for (const bus of busesAt(state.port)) {
          const there = found.get(bus) ?? []
          found.set(bus, there)
          if (!there.includes(state.message)) there.push(state.message)
        }
    return buses.flatMap((bus) => {
      const messages = found.get(bus)
      return messages ? [{ bus, messages }] : []
    })
  }
  return {
    buses,
    graph,
    arrivals,
    open,
    busesFrom: (id) => topologyOf(id).buses,
    cablesFrom: (id) => topologyOf(id).cables,
    looksAtNumbers: looksAt,
    flows,
    busesAt,
  }
}

const sameWires = stableList<unknown>()

/**
 * How everything is delivered in a rig; worked out once for the same cables, boxes, computers, destinations and ports
 * of controllers.
 */
export const deliveryOf: (rig: Rig) => Delivery = memoOf((rig) => byWires(rig))

const byWires: (rig: Rig) => Delivery = memo(
  (rig) => [
    rig.cables,
    rig.boxes,
    rig.computers,
    rig.destinations,
    sameWires(rig.controllers.flatMap(({ id, inUse, ports }) => [id, inUse, ports])),
  ],
  deliver,
)

/** Is what lands at an address heard by a bus, in any part? */
export const isHeard = ({ hears, hearsAll }: Bus, { channel, target }: ChannelAddress): boolean => {
  if (hearsAll || typeof channel !== 'number') return true
  switch (target.kind) {
    case 'note':
    case 'polyPressure':
      for (let number = target.low; number <= target.high; number++)
        if (hears({ kind: target.kind, channel, number })) return true
      return false
    case 'cc':
    case 'cc14':
    case 'channelMode':
      return hears({ kind: 'cc', channel, number: target.number })
    case 'program':
    case 'nrpn':
    case 'rpn':
      return hears({ kind: target.kind, channel, number: target.number })
    case 'pitchBend':
    case 'channelPressure':
      return hears({ kind: target.kind, channel, number: 0 })
  }
}

export type { Flow, FlowEdge, FlowState }
