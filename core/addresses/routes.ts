import { portKey, withNumber, type Cable, type Id, type Message, type PortRef, type Rig } from '../rig'
import { hostChain, type Bus } from './buses'
import { carried, looksAtNumbers } from './cables'
import { keyRange } from './cells'

/** One way from a controller to a bus: the cables on it that have rules. */
interface Way {
  bus: Bus
  filters: readonly Cable[]
}

function onwardPorts(rig: Rig): Map<Id, PortRef[]> {
  const onward = new Map<Id, PortRef[]>()
  const add = (owner: Id, ports: readonly { id: Id; direction: string }[], directions: readonly string[]) =>
    onward.set(
      owner,
      ports.filter((port) => directions.includes(port.direction)).map((port) => ({ owner, port: port.id })),
    )
  for (const { id, ports } of [...rig.controllers, ...rig.destinations]) add(id, ports, ['thru'])
  for (const { id, ports } of rig.boxes) add(id, ports, ['out', 'thru'])
  return onward
}

/**
 * All ways from each controller's outputs to each bus, over cables, boxes, thru ports and the ports
 * that software opens on a computer. A way never visits a port twice.
 */
function waysOf(rig: Rig, buses: readonly Bus[]): Map<Id, Way[]> {
  const cablesFrom = groupCables(rig.cables)
  const onward = onwardPorts(rig)
  const openedBy = new Map<string, PortRef[]>()
  for (const { id: owner, ports } of rig.destinations) {
    for (const { id: port, opens } of ports) {
      if (opens === null) continue
      const key = portKey({ owner: opens.computer, port: opens.port })
      openedBy.set(key, [...(openedBy.get(key) ?? []), { owner, port }])
    }
  }
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
    const follow = (from: PortRef, filters: readonly Cable[], seen: ReadonlySet<string>): void => {
      for (const cable of cablesFrom.get(portKey(from)) ?? []) {
        const filtered = cable.rules.length > 0 || cable.otherwise === 'stop' ? [...filters, cable] : filters
        arrive(cable.to, filtered, seen)
      }
    }
    const arrive = (at: PortRef, filters: readonly Cable[], seen: ReadonlySet<string>): void => {
      const key = portKey(at)
      if (seen.has(key)) return
      const visited = new Set([...seen, key])
      for (const bus of busesAt.get(key) ?? []) found.push({ bus, filters })
      for (const opened of openedBy.get(key) ?? []) arrive(opened, filters, visited)
      for (const next of onward.get(at.owner) ?? []) follow(next, filters, visited)
    }
    for (const port of controller.ports) {
      if (port.direction === 'out') follow({ owner: controller.id, port: port.id }, [], new Set())
    }
    ways.set(controller.id, found)
  }
  return ways
}

function groupCables(cables: readonly Cable[]): Map<string, Cable[]> {
  const groups = new Map<string, Cable[]>()
  for (const cable of cables) {
    const key = portKey(cable.from)
    groups.set(key, [...(groups.get(key) ?? []), cable])
  }
  return groups
}

/** What of a message arrives at a bus: the message itself, or what cables made of it. */
export interface Arrival {
  bus: Bus
  messages: readonly Message[]
}

/** Where a message of a controller arrives, and as what. Its channel must be a number, not home. */
export type Reach = (controller: Id, message: Message) => readonly Arrival[]

/** A span of keys as its keys, one by one; other messages as they are. */
function keyByKey(message: Message): Message[] {
  if (!('keys' in message) || message.keys.kind !== 'span') return [message]
  const range = keyRange(message.keys)
  if (range === null) return [message]
  return Array.from({ length: range.high - range.low + 1 }, (_, index) =>
    withNumber(message, range.low + index),
  )
}

const carriedAlong = (filters: readonly Cable[], message: Message): Message | null =>
  filters.reduce<Message | null>((now, cable) => (now === null ? null : carried(cable, now)), message)

/** Work out the ways once; the function given back answers for any message. */
export function reachOf(rig: Rig, buses: readonly Bus[]): Reach {
  const ways = waysOf(rig, buses)
  const open = new Map<Id, readonly Bus[]>()
  for (const [controller, list] of ways) {
    if (list.every((way) => way.filters.length === 0)) {
      open.set(controller, [...new Set(list.map((way) => way.bus))])
    }
  }
  return (controller, message) => {
    const all = open.get(controller)
    if (all) return all.map((bus) => ({ bus, messages: [message] }))
    const arrivals = new Map<Bus, Message[]>()
    for (const { bus, filters } of ways.get(controller) ?? []) {
      const parts = looksAtNumbers(filters) ? keyByKey(message) : [message]
      const arrived = parts.flatMap((part) => carriedAlong(filters, part) ?? [])
      if (arrived.length > 0) arrivals.set(bus, [...(arrivals.get(bus) ?? []), ...arrived])
    }
    return [...arrivals].map(([bus, messages]) => ({ bus, messages }))
  }
}
