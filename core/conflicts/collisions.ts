import {
  cellKey,
  valuesOverlap,
  type Bus,
  type CellAddress,
  type Hit,
  type Occupancy,
  type Sender,
} from '../addresses'
import type { GestureRef, Id } from '../rig'

/** How two senders can collide in one cell of one destination. */
export const COLLISION_KINDS = [
  'same-address',
  'channel-wide',
  'split-value',
  'merged-channels',
  'pair-broken',
] as const
export type CollisionKind = (typeof COLLISION_KINDS)[number]

/** Senders that meet at one address (or, where key spans overlap, over a run of notes). */
export interface Collision {
  cells: readonly CellAddress[]
  senders: readonly Sender[]
  destinations: readonly Id[]
  /** For a broken pair: who sends the pair, and who uses its second number. */
  pairSenders: readonly Sender[]
  /**
   * Who meets whom, at one destination after the other: not each of the senders meets each where they reach different
   * destinations, or never act together.
   */
  meetings: ReadonlyArray<readonly [Sender, Sender]>
}

export type Collisions = Readonly<Record<CollisionKind, readonly Collision[]>>

/**
 * How two hits in one cell collide, or null where that is harmless. Carriers never meet, what may come
 * twice may meet, the second halves of two pairs follow their first halves, and channel-wide
 * messages of one controller on one channel are one sender.
 */
export function collisionKind(a: Hit, b: Hit): CollisionKind | null {
  const roles = [a.cell.role, b.cell.role]
  const wide = roles.every((role) => role === 'channel-wide')
  if (!wide && !roles.every((role) => role === 'main')) return null
  const seconds = [a, b].filter((hit) => hit.cell.part === 'lsb').length
  if (seconds === 2) return null
  if (a.cell.channel !== b.cell.channel) return 'merged-channels'
  if (seconds === 1) return 'pair-broken'
  if (wide) return a.sender.place.controller === b.sender.place.controller ? null : 'channel-wide'
  const { kind } = a.cell
  if (kind === 'note' || kind === 'polyPressure') return 'same-address'
  return valuesOverlap(a.cell.sent, b.cell.sent) ? 'same-address' : 'split-value'
}

type Pair = readonly [Hit, Hit]

/** What meets in one cell, over all destinations. */
interface Crossing {
  cells: Map<number, CellAddress>
  senders: Map<string, Sender>
  destinations: Set<Id>
  pairSenders: Map<string, Sender>
  meetings: Map<Sender, Set<Sender>>
}

const emptyCrossing = (): Crossing => ({
  cells: new Map(),
  senders: new Map(),
  destinations: new Set(),
  pairSenders: new Map(),
  meetings: new Map(),
})

/** Does a sender have more than one key? */
export const isSpan = ({ message }: Sender): boolean => 'keys' in message && message.keys.kind !== 'one'
const byOrder = (a: Sender, b: Sender): number => a.order - b.order

/** Where channels are merged, all channels are one cell. */
const crossingKey = (kind: CollisionKind, { cell }: Hit): number =>
  cellKey(kind === 'merged-channels' ? { ...cell, channel: 1 } : cell)

/**
 * Everyone who meets at every destination: pairs of different gestures that can act at the same time
 * and do not share on purpose, gathered by kind and address over all destinations. Each address is in
 * one meeting; where the same key spans take part at several notes, those are one meeting.
 */
export function findCollisions(
  occupancy: Occupancy,
  live: (a: Sender, b: Sender) => boolean,
  excused: (a: GestureRef, b: GestureRef) => boolean,
): Collisions {
  const crossings = new Map<CollisionKind, Map<number, Crossing>>(
    COLLISION_KINDS.map((kind) => [kind, new Map()]),
  )
  for (const bus of occupancy.buses) {
    for (const hits of occupancy.cells.get(bus.id)?.values() ?? []) {
      for (const { kind, pair } of collidingPairs(hits, live, excused)) {
        const ofKind = crossings.get(kind)
        const key = crossingKey(kind, pair[0])
        const crossing = ofKind?.get(key) ?? emptyCrossing()
        ofKind?.set(key, crossing)
        addPair(crossing, pair, bus)
      }
    }
  }
  const finish = (kind: CollisionKind): Collision[] => joinSpans([...(crossings.get(kind)?.values() ?? [])])
  return {
    'same-address': finish('same-address'),
    'channel-wide': finish('channel-wide'),
    'split-value': finish('split-value'),
    'merged-channels': finish('merged-channels'),
    'pair-broken': finish('pair-broken'),
  }
}

/**
 * Do all hits stand in different layers of one replacing stack, so that no two can act at the same time? They are
 * in the order of the rig: what stands in one layer stands together.
 */
function areLayersOfOne(hits: readonly Hit[]): boolean {
  const first = hits[0]?.sender.standing
  if (!first || first.stack === null) return false
  for (let index = 1; index < hits.length; index++) {
    const standing = hits[index]?.sender.standing
    if (
      standing?.stack !== first.stack ||
      standing.controller !== first.controller ||
      standing.template !== first.template ||
      standing.layer === hits[index - 1]?.sender.standing.layer
    )
      return false
  }
  return true
}

function collidingPairs(
  hits: readonly Hit[],
  live: (a: Sender, b: Sender) => boolean,
  excused: (a: GestureRef, b: GestureRef) => boolean,
): Array<{ kind: CollisionKind; pair: Pair }> {
  const found: Array<{ kind: CollisionKind; pair: Pair }> = []
  if (hits.length < 2 || areLayersOfOne(hits)) return found
  for (let first = 0; first < hits.length - 1; first++) {
    const a = hits[first]
    if (!a) continue
    for (let second = first + 1; second < hits.length; second++) {
      const b = hits[second]
      // Most senders of a large rig that share a cell are layers of one stack: the cheapest question first.
      if (!b || !live(a.sender, b.sender)) continue
      if (a.sender.gesture === b.sender.gesture) continue
      const kind = collisionKind(a, b)
      if (kind === null || excused(a.sender.gesture, b.sender.gesture)) continue
      found.push({ kind, pair: [a, b] })
    }
  }
  return found
}

function meet({ meetings }: Crossing, sender: Sender, others: Iterable<Sender>): void {
  const met = meetings.get(sender) ?? new Set()
  meetings.set(sender, met)
  for (const other of others) met.add(other)
}

function addPair(crossing: Crossing, pair: Pair, bus: Bus): void {
  crossing.destinations.add(bus.destination)
  meet(crossing, pair[0].sender, [pair[1].sender])
  for (const { sender, cell } of pair) {
    crossing.cells.set(cellKey(cell), cell)
    crossing.senders.set(sender.key, sender)
    if (cell.part === 'lsb') crossing.pairSenders.set(sender.key, sender)
  }
}

/** Join the crossings in which the same key spans take part; finish the rest one by one. */
function joinSpans(crossings: readonly Crossing[]): Collision[] {
  const joined = new Map<string, Crossing>()
  crossings.forEach((crossing, index) => {
    const spans = [...crossing.senders.values()].filter(isSpan).map((sender) => sender.key)
    const key = spans.length > 0 ? spans.sort().join('|') : String(index)
    const into = joined.get(key) ?? emptyCrossing()
    joined.set(key, into)
    crossing.cells.forEach((cell, cellId) => into.cells.set(cellId, cell))
    crossing.senders.forEach((sender, id) => into.senders.set(id, sender))
    crossing.destinations.forEach((id) => into.destinations.add(id))
    crossing.pairSenders.forEach((sender, id) => into.pairSenders.set(id, sender))
    crossing.meetings.forEach((others, sender) => meet(into, sender, others))
  })
  return [...joined.values()].map(finished)
}

const finished = (crossing: Crossing): Collision => ({
  cells: [...crossing.cells.values()],
  senders: [...crossing.senders.values()].sort(byOrder),
  destinations: [...crossing.destinations],
  pairSenders: [...crossing.pairSenders.values()].sort(byOrder),
  meetings: [...crossing.meetings].flatMap(([a, others]) => [...others].map((b) => [a, b] as const)),
})
