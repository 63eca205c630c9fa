import { carriedAlong, nextCables, portGraph } from '../../addresses'
import {
  CABLE_KINDS,
  freshMessage,
  MESSAGE_KIND_NAME,
  numberBounds,
  withChannel,
  withNumber,
  type Cable,
  type Message,
  type MessageKind,
  type Rig,
} from '../../rig'
import { CHANNELS } from '../../midi'
import { unplugFix } from '../fixes/cable-fixes'
import type { Rule } from '../rule'
import { listed, routeWords } from '../words'

/** More rounds than these, and rings within rings, are named no more. */
const MOST_LOOPS = 32
const MOST_STEPS = 20_000

/** Every ring of cables, each once, as it starts from the first of its cables in the order of the rig. */
function ringsOf(rig: Rig): Cable[][] {
  const graph = portGraph(rig)
  const order = new Map(rig.cables.map((cable, index) => [cable, index]))
  const rings: Cable[][] = []
  let steps = 0
  const follow = (path: readonly Cable[], first: Cable): void => {
    const last = path.at(-1)
    if (!last || rings.length >= MOST_LOOPS || ++steps > MOST_STEPS) return
    for (const next of nextCables(graph, last)) {
      if (next === first) rings.push([...path])
      else if ((order.get(next) ?? 0) > (order.get(first) ?? 0) && !path.includes(next))
        follow([...path, next], first)
    }
  }
  for (const cable of rig.cables) follow([cable], cable)
  return rings
}

/** Numbers at which rules of these cables may begin or cease to speak. */
function edges(ring: readonly Cable[], kind: MessageKind): number[] {
  const bounds = numberBounds(kind)
  if (bounds === null) return []
  const named = ring.flatMap(({ rules }) =>
    rules.flatMap(({ match, ...rule }) => [
      match.low,
      match.high,
      rule.kind === 'rewrite' ? rule.to.number : null,
    ]),
  )
  const near = named.flatMap((number) => (number === null ? [] : [number - 1, number, number + 1]))
  return [...new Set([bounds.low, bounds.high, ...near])].filter(
    (number) => number >= bounds.low && number <= bounds.high && !(kind === 'cc14' && number === 6),
  )
}

const stateOf = (message: Message): string => JSON.stringify(message)

/** Does a message, sent round a ring, come back as something that has been round before? */
function comesRound(ring: readonly Cable[], message: Message): boolean {
  const seen = new Set<string>()
  let now: Message | null = message
  while (now !== null && !seen.has(stateOf(now))) {
    seen.add(stateOf(now))
    now = carriedAlong(ring, now)
  }
  return now !== null
}

/** The kinds of message that go round a ring for ever. */
function kindsRound(ring: readonly Cable[]): MessageKind[] {
  const isChannelSpoken = ring.some(({ rules }) => rules.some(({ match }) => match.channels.length > 0))
  const channels = isChannelSpoken ? CHANNELS : CHANNELS.slice(0, 1)
  return CABLE_KINDS.filter((kind) => {
    const fresh = freshMessage(kind, 'button', 'press')
    const numbered = edges(ring, kind).map((number) => withNumber(fresh, number))
    return (numbered.length > 0 ? numbered : [fresh]).some((message) =>
      channels.some((channel) => comesRound(ring, withChannel(message, channel))),
    )
  })
}

/** A message can come round for ever: cables, boxes and thru ports make a ring, and rules let something pass. */
export const loop: Rule = {
  id: 'loop',
  title: 'Round for ever',
  reach: 'wiring',
  find: ({ rig }) =>
    ringsOf(rig).flatMap((ring) => {
      const kinds = kindsRound(ring)
      if (kinds.length === 0) return []
      const names = listed(kinds.map((kind) => MESSAGE_KIND_NAME[kind]))
      const what =
        kinds.length === CABLE_KINDS.length ? 'All' : `${names.slice(0, 1).toUpperCase()}${names.slice(1)}`
      return [
        {
          severity: 'error' as const,
          message: `${what} messages that get into the ring ${routeWords(rig, ring)} go round for ever: take one cable out, or let one stop what comes back.`,
          senders: [],
          addresses: [],
          destinations: [],
          about: ring.map(({ id }) => id).join('>'),
          places: [],
          things: ring.map(({ id }) => ({ kind: 'cable' as const, id })),
          cures: { moves: [], share: false, ready: ring.map((cable) => unplugFix(rig, cable)) },
        },
      ]
    }),
}
