import { portKey, withNumber, type Cable, type Id, type Message, type PortRef, type Rig } from '../rig'
import { hostChain, type Bus } from './buses'
import { carried, looksAtNumbers } from './cables'
import { keyRange } from './cells'
import { portGraph } from './graph'

/** One way from a controller to a bus: the cables along it, from the controller on. */
export interface Way {
  bus: Bus
  cables: readonly Cable[]
}

const isPlain = ({ rules, otherwise }: Cable): boolean => rules.length === 0 && otherwise === 'pass'

/**
 * All ways from each controller's outputs to each bus, over cables, boxes, thru ports and the ports
 * that software opens on a computer. A way never visits a port twice.
 */
export function waysOf(rig: Rig, buses: readonly Bus[]): Map<Id, Way[]> {
  const graph = portGraph(rig)
  const busesAt = new Map<string, Bus[]>()
  for (const bus of buses) {
    const destination = rig.destinations.find((candidate) => candidate.id === bus.destination)
    const owner = destination ? hostChain(rig, destination).at(-1) : undefined
    for (const port of owner ? bus.ports : []) {
      const key = portKey({ owner: owner?.id ?? '', port })
      busesAt.set(key, [...(busesAt.get(key) ?? []), bus])
    }
  }

  const ways = new Map<Id, Way[]>()
  for (const controller of rig.controllers) {
    const found: Way[] = []
    const follow = (from: PortRef, cables: readonly Cable[], seen: ReadonlySet<string>): void => {
      for (const cable of graph.cablesFrom(from)) arrive(cable.to, [...cables, cable], seen)
    }
    const arrive = (at: PortRef, cables: readonly Cable[], seen: ReadonlySet<string>): void => {
      const key = portKey(at)
      if (seen.has(key)) return
      const visited = new Set([...seen, key])
      for (const bus of busesAt.get(key) ?? []) found.push({ bus, cables })
      for (const opened of graph.openedAt(at)) arrive(opened, cables, visited)
      for (const next of graph.onwardOf(at.owner)) follow(next, cables, visited)
    }
    for (const port of controller.ports) {
      if (port.direction === 'out') follow({ owner: controller.id, port: port.id }, [], new Set())
    }
    ways.set(controller.id, found)
  }
  return ways
}

/** What of a message arrives at a bus: the message itself, or what cables made of it. */
export interface Arrival {
  bus: Bus
  messages: readonly Message[]
}

/** Where messages of controllers arrive, and as what. */
export interface Reach {
  /** Of one message, whose channel must be a number, not home. */
  arrivals: (controller: Id, message: Message) => readonly Arrival[]
  /** The buses of controllers whose every message arrives everywhere as it is sent. */
  open: ReadonlyMap<Id, readonly Bus[]>
}

/** A span of keys as its keys, one by one; other messages as they are. */
function keyByKey(message: Message): Message[] {
  if (!('keys' in message) || message.keys.kind !== 'span') return [message]
  const range = keyRange(message.keys)
  if (range === null) return [message]
  return Array.from({ length: range.high - range.low + 1 }, (_, index) =>
    withNumber(message, range.low + index),
  )
}

/** What cables, one after the other, hand on of a message whose channel is a number; null where it stops. */
export const carriedAlong = (cables: readonly Cable[], message: Message): Message | null =>
  cables.reduce<Message | null>((now, cable) => (now === null ? null : carried(cable, now)), message)

/** What arrives at the end of cables of a message whose channel is a number; a span of keys may be thinned out. */
export function arrivingAlong(cables: readonly Cable[], message: Message): Message[] {
  const filters = cables.filter((cable) => !isPlain(cable))
  const parts = looksAtNumbers(filters) ? keyByKey(message) : [message]
  return parts.flatMap((part) => carriedAlong(filters, part) ?? [])
}

/** Work out the ways once; what is given back answers for any message. */
export function reachOf(rig: Rig, buses: readonly Bus[], ways = waysOf(rig, buses)): Reach {
  const open = new Map<Id, readonly Bus[]>()
  for (const [controller, list] of ways) {
    if (list.every(({ cables }) => cables.every(isPlain))) {
      open.set(controller, [...new Set(list.map((way) => way.bus))])
    }
  }
  const arrivals = (controller: Id, message: Message): readonly Arrival[] => {
    const all = open.get(controller)
    if (all) return all.map((bus) => ({ bus, messages: [message] }))
    const found = new Map<Bus, Message[]>()
    for (const { bus, cables } of ways.get(controller) ?? []) {
      const arrived = arrivingAlong(cables, message)
      if (arrived.length > 0) found.set(bus, [...(found.get(bus) ?? []), ...arrived])
    }
    return [...found].map(([bus, messages]) => ({ bus, messages }))
  }
  return { arrivals, open }
}
