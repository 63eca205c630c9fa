import { handled, portGraph, type Handling, type PortGraph, type Signature } from '../../addresses'
import { CHANNELS, FOURTEEN_MAX, KINDS, type Channel } from '../../midi'
import {
  CABLE_KINDS,
  fitsNumber,
  MESSAGE_KIND_NAME,
  numberBounds,
  portKey,
  type Cable,
  type CableKind,
  type CableRule,
  type PortRef,
  type Rig,
} from '../../rig'
import { unplugFix } from '../fixes/cables'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { listed, routeWords } from '../words'

/** How the cables of a ring hand on to one another. */
interface Wires {
  /** What comes after each cable. */
  next: ReadonlyMap<Cable, readonly Cable[]>
  /** Cables into which some port can put a message of its own: outputs of controllers in use, and of destinations. */
  entries: readonly Cable[]
}

function wiresOf(rig: Rig, graph: PortGraph): Wires {
  const after = ({ to }: Cable): Cable[] =>
    [to, ...graph.openedAt(to)]
      .flatMap(({ owner }) => graph.onwardOf(owner))
      .flatMap((at) => graph.cablesFrom(at))
  const outputs = [...rig.controllers.filter(({ inUse }) => inUse), ...rig.destinations].flatMap(
    ({ id: owner, ports }) =>
      ports.flatMap(({ id: port, direction }): PortRef[] => (direction === 'out' ? [{ owner, port }] : [])),
  )
  return {
    next: new Map(rig.cables.map((cable) => [cable, after(cable)])),
    entries: [...new Map(outputs.map((at) => [portKey(at), at])).values()].flatMap((at) =>
      graph.cablesFrom(at),
    ),
  }
}

/** Groups of nodes each of which leads to each other (Tarjan's strongly connected components), without recursion. */
function components<N>(nodes: Iterable<N>, nextOf: (node: N) => readonly N[]): N[][] {
  const index = new Map<N, number>()
  const low = new Map<N, number>()
  const held: N[] = []
  const isHeld = new Set<N>()
  const found: N[][] = []
  for (const root of nodes) {
    if (index.has(root)) continue
    const path: Array<{ node: N; at: number }> = []
    const enter = (node: N): void => {
      index.set(node, index.size)
      low.set(node, index.size - 1)
      held.push(node)
      isHeld.add(node)
      path.push({ node, at: 0 })
    }
    enter(root)
    for (let top = path.at(-1); top; top = path.at(-1)) {
      const { node } = top
      const next = nextOf(node)[top.at++]
      if (next === undefined) {
        path.pop()
        const above = path.at(-1)?.node
        if (above !== undefined) low.set(above, Math.min(low.get(above) ?? 0, low.get(node) ?? 0))
        if (low.get(node) === index.get(node)) {
          const group: N[] = []
          for (let one = held.pop(); one !== undefined; one = held.pop()) {
            isHeld.delete(one)
            group.push(one)
            if (one === node) break
          }
          found.push(group)
        }
      } else if (!index.has(next)) enter(next)
      else if (isHeld.has(next)) low.set(node, Math.min(low.get(node) ?? 0, index.get(next) ?? 0))
    }
  }
  return found
}

/** Does a group of nodes that lead to each other hold a way round? */
const isRound = <N>(group: readonly N[], nextOf: (node: N) => readonly N[]): boolean =>
  group.length > 1 || group.some((node) => nextOf(node).includes(node))

/** Of the 16,384 numbers of parameters, so many at most are tried. */
const MOST_NUMBERS = 512

/** The rules that can speak of a kind, or of what other rules make of it. */
function rulesFor(kind: CableKind, cables: readonly Cable[]): CableRule[] {
  const rules = cables.flatMap((cable) => cable.rules)
  const kinds = new Set<CableKind>([kind])
  const speaks = ({ match }: CableRule): boolean =>
    match.kinds.length === 0 || match.kinds.some((each) => kinds.has(each))
  for (const _ of kinds)
    for (const rule of rules)
      if (rule.kind === 'rewrite' && rule.to.kind !== null && speaks(rule)) kinds.add(rule.to.kind)
  return rules.filter(speaks)
}

/** One number of each stretch of which these rules speak alike, wherever they take it; null for kinds without number. */
function numbersOf(kind: CableKind, rules: readonly CableRule[]): ReadonlyArray<number | null> {
  const bounds = numberBounds(kind)
  if (bounds === null) return [null]
  const found = new Set([bounds.low, bounds.high])
  const addAround = (number: number): void => {
    for (const near of [number - 1, number, number + 1]) if (found.size < MOST_NUMBERS) found.add(near)
  }
  for (const { match } of rules)
    for (const edge of [match.low, match.high]) if (edge !== null) addAround(edge)
  // Where a rule moves numbers, what it takes to an edge is one too.
  for (const number of found)
    for (const rule of rules) {
      if (rule.kind !== 'rewrite' || rule.to.number === null || rule.match.low === null) continue
      const before = number - (rule.to.number - rule.match.low)
      if (before >= rule.match.low && before <= (rule.match.high ?? FOURTEEN_MAX)) addAround(before)
    }
  return [...found].filter((number) => fitsNumber(kind, number))
}

/** The channels that rules name, and one that none does; null for kinds without channel. */
function channelsOf(kind: CableKind, rules: readonly CableRule[]): ReadonlyArray<Channel | null> {
  if (KINDS[kind].scope !== 'channel') return [null]
  const named = new Set(rules.flatMap(({ match }) => match.channels))
  const other = CHANNELS.find((channel) => !named.has(channel))
  return other === undefined ? [...named] : [...named, other]
}

/** A message, as far as cables look at it, on a cable. */
interface State extends Signature {
  cable: Cable
}

/** The kinds of message that go round some of these cables for ever, having been put in by a port of the rig. */
function kindsRound({ next, entries }: Wires, ring: ReadonlySet<Cable>, all: readonly Cable[]): CableKind[] {
  const round = new Set<CableKind>()
  const states = new Map<string, State>()
  const followers = new Map<State, State[]>()
  const startedBy = new Map<State, Set<CableKind>>()
  const open: State[] = []
  const stateOf = (cable: Cable, of: Signature): State | null => {
    const how: Handling = handled(cable, of)
    if (how.kind === 'stop') return null
    const { kind, channel, number } = how.kind === 'rewrite' ? how.to : of
    const key = `${cable.id} ${kind} ${channel} ${number}`
    const known = states.get(key)
    if (known) return known
    const state = { cable, kind, channel, number }
    states.set(key, state)
    open.push(state)
    return state
  }
  for (const kind of CABLE_KINDS) {
    const rules = rulesFor(kind, all)
    for (const number of numbersOf(kind, rules))
      for (const channel of channelsOf(kind, rules))
        for (const cable of entries) {
          const state = stateOf(cable, { kind, channel, number })
          if (state) startedBy.set(state, (startedBy.get(state) ?? new Set()).add(kind))
        }
  }
  for (let state = open.pop(); state; state = open.pop()) {
    const { cable } = state
    const on = state
    followers.set(
      state,
      (next.get(cable) ?? []).flatMap((after) => stateOf(after, on) ?? []),
    )
  }
  const nextOf = (state: State): readonly State[] => followers.get(state) ?? []
  const looping = new Set(
    components(states.values(), nextOf)
      .filter((group) => group.some(({ cable }) => ring.has(cable)) && isRound(group, nextOf))
      .flat(),
  )
  // What started it may be of another kind than what goes round.
  for (const [start, kinds] of startedBy) {
    const seen = new Set([start])
    for (const state of seen) {
      if (looping.has(state)) {
        for (const kind of kinds) round.add(kind)
        break
      }
      for (const after of nextOf(state)) seen.add(after)
    }
  }
  return CABLE_KINDS.filter((kind) => round.has(kind))
}

/** One way round, to be named: the shortest from a cable back to itself. */
function aWayRound(ring: readonly Cable[], next: Wires['next']): Cable[] {
  const within = new Set(ring)
  let best: Cable[] = []
  for (const first of ring) {
    const from = new Map<Cable, Cable | null>([[first, null]])
    const closing = [...from.keys()]
    for (const cable of closing) {
      for (const after of next.get(cable) ?? []) {
        if (after === first) {
          const way: Cable[] = []
          for (let at: Cable | null = cable; at; at = from.get(at) ?? null) way.unshift(at)
          if (best.length === 0 || way.length < best.length) best = way
        }
        if (!within.has(after) || from.has(after)) continue
        from.set(after, cable)
        closing.push(after)
      }
    }
    if (best.length > 0) return best
  }
  return best
}

/**
 * A message that some port of the rig can start comes back to where it was, and so goes round for ever: cables,
 * boxes and thru ports make a ring, and rules let something pass. One finding a ring; rings that share a cable are one.
 */
export const loop: Rule = {
  id: 'loop',
  title: 'Round for ever',
  topic: 'cables',
  reach: 'wiring',
  find: ({ rig }) => {
    const wires = wiresOf(rig, portGraph(rig))
    const nextOf = (cable: Cable): readonly Cable[] => wires.next.get(cable) ?? []
    const rings = components(rig.cables, nextOf).filter((group) => isRound(group, nextOf))
    return rings.flatMap((group): Draft[] => {
      const ring = rig.cables.filter((cable) => group.includes(cable))
      const kinds = kindsRound(wires, new Set(ring), leadingTo(rig.cables, ring, nextOf))
      if (kinds.length === 0) return []
      const names = listed(kinds.map((kind) => MESSAGE_KIND_NAME[kind]))
      const what =
        kinds.length === CABLE_KINDS.length ? 'All' : `${names.slice(0, 1).toUpperCase()}${names.slice(1)}`
      const named = aWayRound(ring, wires.next)
      return [
        {
          severity: 'error',
          message: `${what} messages that get into the ring ${routeWords(rig, named)} go round for ever: take one cable out, or let one stop what comes back.`,
          senders: [],
          addresses: [],
          destinations: [],
          about: ring.map(({ id }) => id).join('>'),
          places: [],
          things: ring.map(({ id }) => ({ kind: 'cable', id })),
          cures: () => ring.map((cable) => unplugFix(rig, cable)),
        },
      ]
    })
  },
}

/** The cables of a ring, and all that lead into it: whatever they do with a message matters. */
function leadingTo(
  all: readonly Cable[],
  ring: readonly Cable[],
  nextOf: (cable: Cable) => readonly Cable[],
): Cable[] {
  const found = new Set(ring)
  for (let size = 0; size !== found.size;) {
    size = found.size
    for (const cable of all) if (nextOf(cable).some((after) => found.has(after))) found.add(cable)
  }
  return [...found]
}
