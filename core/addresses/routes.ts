import type { Channel } from '../midi'
import {
  portKey,
  type Cable,
  type CableRule,
  type Id,
  type MessageKind,
  type PortRef,
  type Rig,
} from '../rig'
import { hostChain, type Bus } from './buses'

/** What a cable rule looks at. */
export interface Passing {
  kind: MessageKind
  channel: Channel | null
  number: number | null
}

const includesOrEmpty = <T>(list: readonly T[], value: T): boolean =>
  list.length === 0 || list.includes(value)

function matches({ match }: CableRule, { kind, channel, number }: Passing): boolean {
  if (!includesOrEmpty<string>(match.kinds, kind)) return false
  if (match.channels.length > 0 && (channel === null || !match.channels.includes(channel))) return false
  if (match.low !== null && (number === null || number < match.low)) return false
  return match.high === null || (number !== null && number <= match.high)
}

/** Does a cable let a message through? The first rule that matches decides. Rewritten messages pass. */
export function cablePasses(cable: Cable, message: Passing): boolean {
  const rule = cable.rules.find((candidate) => matches(candidate, message))
  return rule ? rule.kind !== 'stop' : cable.otherwise === 'pass'
}

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

/** Which buses a message of a controller reaches, cable rules considered. */
export type Reach = (controller: Id, message: Passing) => readonly Bus[]

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
    if (all) return all
    const reached = (ways.get(controller) ?? [])
      .filter((way) => way.filters.every((cable) => cablePasses(cable, message)))
      .map((way) => way.bus)
    return [...new Set(reached)]
  }
}
