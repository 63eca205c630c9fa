import { isChannelMessage, keysFacet, partsOf, withNumber, type SentMessage } from '../midi'
import { portKey, type Cable, type Id, type PortRef } from '../rig'
import { carried, isPlainCable, looksAtNumbers } from './cables'
import type { PortGraph } from './graph'

/** A message that has arrived at a port. */
export interface FlowState {
  port: PortRef
  message: SentMessage
  /** Where it goes on from there. */
  next: FlowEdge[]
}

/** One hop: along a cable, or into software that has opened a port. */
export interface FlowEdge {
  cable: Cable | null
  to: FlowState
}

/** Everywhere that a message goes from some outputs. */
export interface Flow {
  /** What leaves the outputs. */
  message: SentMessage
  starts: readonly FlowEdge[]
  states: readonly FlowState[]
  /** Cables that stopped it, each with what came to it. */
  stopped: ReadonlyArray<{ cable: Cable; message: SentMessage }>
}

/**
 * Follow a message, whose channel is a number, from outputs through every cable, box, thru port and port that software
 * has opened. Each port is looked at once for each form that the message has there, so rings and meshes end.
 */
export const flowOf = (graph: PortGraph, outputs: readonly PortRef[], message: SentMessage): Flow =>
  flowAlong(
    graph,
    outputs.flatMap((at) => graph.cablesFrom(at)),
    message,
  )

/** As `flowOf`, from cables on. */
export function flowAlong(graph: PortGraph, cables: readonly Cable[], message: SentMessage): Flow {
  const states = new Map<string, FlowState>()
  const stopped: Array<{ cable: Cable; message: SentMessage }> = []
  const numbers = new Map<string, number>()
  const identities = new WeakMap<SentMessage, number>()
  const identity = (of: SentMessage): number => {
    const known = identities.get(of)
    if (known !== undefined) return known
    const text = JSON.stringify(of)
    const number = numbers.get(text) ?? numbers.size
    numbers.set(text, number)
    identities.set(of, number)
    return number
  }
  const open: FlowState[] = []
  const arrive = (port: PortRef, arrived: SentMessage): FlowState => {
    const key = `${portKey(port)} ${identity(arrived)}`
    const known = states.get(key)
    if (known) return known
    const state: FlowState = { port, message: arrived, next: [] }
    states.set(key, state)
    open.push(state)
    return state
  }
  const along = (on: readonly Cable[], sent: SentMessage): FlowEdge[] =>
    on.flatMap((cable): FlowEdge[] => {
      const arrived = carried(cable, sent)
      if (arrived !== null && arrived.kind !== 'off') return [{ cable, to: arrive(cable.to, arrived) }]
      stopped.push({ cable, message: sent })
      return []
    })
  const starts = along(cables, message)
  for (let state = open.pop(); state; state = open.pop()) {
    const { port, message: here, next } = state
    for (const opened of graph.openedAt(port)) next.push({ cable: null, to: arrive(opened, here) })
    for (const at of graph.onwardOf(port.owner)) next.push(...along(graph.cablesFrom(at), here))
  }
  return { message, starts, states: [...states.values()], stopped }
}

/** The hops of one way, from the first cable on. */
export type Way = readonly FlowEdge[]

/** The shortest way to one of these states that does not take one hop, passes no owner twice, and no port that it may not. */
function wayTo(
  starts: readonly FlowEdge[],
  isEnd: (state: FlowState) => boolean,
  mayPass: (state: FlowState) => boolean,
  without: FlowEdge | null,
): Way | null {
  const from = new Map<FlowState, { edge: FlowEdge; before: FlowState | null }>()
  let front: FlowState[] = []
  // What comes back to an owner is a ring, as the same message or another.
  const comesBack = (owner: Id, before: FlowState | null): boolean => {
    for (let at = before; at; at = from.get(at)?.before ?? null) if (at.port.owner === owner) return true
    return false
  }
  const reach = (edges: readonly FlowEdge[], before: FlowState | null): Way | null => {
    for (const edge of edges) {
      if (edge === without || from.has(edge.to) || comesBack(edge.to.port.owner, before)) continue
      from.set(edge.to, { edge, before })
      if (isEnd(edge.to)) return walked(from, edge.to)
      front.push(edge.to)
    }
    return null
  }
  const direct = reach(starts, null)
  if (direct) return direct
  while (front.length > 0) {
    const now = front
    front = []
    for (const state of now) {
      const found = mayPass(state) ? reach(state.next, state) : null
      if (found) return found
    }
  }
  return null
}

function walked(
  from: ReadonlyMap<FlowState, { edge: FlowEdge; before: FlowState | null }>,
  end: FlowState,
): Way {
  const way: FlowEdge[] = []
  for (let at: FlowState | null = end; at; at = from.get(at)?.before ?? null) {
    const step = from.get(at)
    if (step) way.unshift(step.edge)
  }
  return way
}

/** Of many ways so many are named. */
const MOST_WAYS = 4

/**
 * Ways on which a message comes to some states, each a different one, the shortest first: none, one, or where
 * there are more, a few of them. That there is a second is found without going through all: a way that leaves out some hop of
 * the first. What comes back from an owner to itself is a ring, not a way.
 */
export function waysTo(
  starts: readonly FlowEdge[],
  isEnd: (state: FlowState) => boolean,
  destination: Id | null,
): Way[] {
  const mayPass = ({ port }: FlowState): boolean => port.owner !== destination
  const first = wayTo(starts, isEnd, mayPass, null)
  if (!first) return []
  const ways: Way[] = [first]
  const isKnown = (way: Way): boolean =>
    ways.some((other) => other.length === way.length && other.every((edge, index) => edge === way[index]))
  for (const edge of first) {
    const other = wayTo(starts, isEnd, mayPass, edge)
    if (other && !isKnown(other)) ways.push(other)
    if (ways.length === MOST_WAYS) break
  }
  return ways
}

/** The cables of a way, in order. */
export const cablesOf = (way: Way): Cable[] => way.flatMap(({ cable }) => cable ?? [])

/**
 * A message, whose channel is a number, as what cables with rules see of it: each message of a zone, and each
 * key of a span where a rule looks at single numbers.
 */
export function seenByCables(message: SentMessage, cables: readonly Cable[]): SentMessage[] {
  const filters = cables.filter((cable) => !isPlainCable(cable))
  if (filters.length === 0 || !isChannelMessage(message)) return [message]
  const isKeyByKey = looksAtNumbers(filters)
  const channel = typeof message.channel === 'number' ? message.channel : 1
  return partsOf(message, channel).flatMap((part): SentMessage[] => {
    if (!isKeyByKey || !('keys' in part) || part.keys.kind === 'one') return [part]
    const range = keysFacet.range(part.keys)
    if (range === null) return [part]
    return Array.from(
      { length: range.high - range.low + 1 },
      (_, index) => withNumber(part, range.low + index) as SentMessage,
    )
  })
}
