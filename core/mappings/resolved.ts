import {
  arrivalMatch,
  arrivalsOf,
  cellsListened,
  deliveryOf,
  hitsAt,
  landedAt,
  lossOf,
  matchOf,
  outgoing,
  sendersIn,
  type Arrival,
  type Delivery,
  type Hit,
  type Loss,
  type Match,
  type Occupancy,
  type Sender,
} from '../addresses'
import { isChannelMessage, keyAlone, type Address, type SentMessage } from '../midi'
import {
  memo,
  memoOf,
  rigIndex,
  sentAddress,
  splitGestureRef,
  type Destination,
  type GestureRef,
  type Id,
  type LearnedAddress,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'
import { listeningOf, mappingParameter, type Listening } from './listening'

/** A mapping with what it rests on: where its parameter listens, who its control is, and what of it arrives there. */
export interface ResolvedMapping {
  mapping: Mapping
  destination: Destination
  parameter: Parameter
  listening: Listening | null
  /** What its control sends, over all templates and layers; empty if it is gone, silent or put away. */
  senders: readonly Sender[]
  /** Those of them that arrive where the parameter listens. */
  meeting: readonly Sender[]
  /** Those of the meeting of which only the MSB is taken, or sent. */
  coarse: readonly Sender[]
}

/** The senders of one controller by gesture. */
const byGesture = memoOf((senders: readonly Sender[]): ReadonlyMap<GestureRef, readonly Sender[]> => {
  const found = new Map<GestureRef, Sender[]>()
  for (const sender of senders) {
    const list = found.get(sender.gesture)
    if (list) list.push(sender)
    else found.set(sender.gesture, [sender])
  }
  return found
})

const positions = memo(
  (rig: Rig) => [rig.controllers],
  (rig) => new Map(rig.controllers.map(({ id }, position) => [id, position])),
)

/** Who sends for a gesture, over all templates and layers; nobody if its controller is gone or put away. */
export function sendersOfGesture(rig: Rig, gesture: GestureRef): readonly Sender[] {
  const owner = rigIndex(rig).controllers.get(splitGestureRef(gesture).controller)
  const position = owner && positions(rig).get(owner.id)
  if (!owner?.inUse || position === undefined) return []
  return byGesture(sendersIn(rig, owner, position)).get(gesture) ?? []
}

/** How what a sender, or one key of it, sends is taken by a listening address of a destination; null where it does not arrive there. */
export const matchAt = (
  rig: Rig,
  sender: Sender,
  destination: Id,
  listening: Address,
  key: number | null = null,
): Match | null => matchIn(arrivalsFor(deliveryOf(rig), sender, key), destination, listening)

/** What arrives of a sender that a mapping is about: all of it, or what its one key sends. */
export function arrivalsFor(delivery: Delivery, sender: Sender, key: number | null): readonly Arrival[] {
  if (key === null) return arrivalsOf(delivery, sender)
  const alone = keyAlone(outgoing(sender), key)
  return alone ? delivery.arrivals(sender.place.controller, alone) : []
}

function matchIn(arrivals: readonly Arrival[], destination: Id, listening: Address): Match | null {
  let found: Match | null = null
  for (const arrival of arrivals) {
    if (arrival.bus.destination !== destination) continue
    const match = arrivalMatch(listening, arrival)
    if (match === 'whole') return match
    found ??= match
  }
  return found
}

/** As `matchAt`, for a message that a controller could send. Its channel must be a number, not home. */
export function wouldMatch(
  rig: Rig,
  controller: Id,
  message: SentMessage,
  destination: Id,
  listening: Address,
): boolean {
  return deliveryOf(rig)
    .arrivals(controller, message)
    .some((arrival) => arrival.bus.destination === destination && arrivalMatch(listening, arrival) !== null)
}

interface Resolving {
  delivery: Delivery
  mapping: Mapping
  target: { destination: Destination; parameter: Parameter }
  senders: readonly Sender[]
}

const resolve = memo(
  ({ delivery, mapping, target, senders }: Resolving) => [mapping, delivery, target.parameter, ...senders],
  ({ delivery, mapping, target, senders }): ResolvedMapping => {
    const listening = listeningOf(mapping, target.parameter)
    const meeting: Sender[] = []
    const coarse: Sender[] = []
    for (const sender of listening ? senders : []) {
      const match =
        listening &&
        matchIn(arrivalsFor(delivery, sender, mapping.key), mapping.destination, listening.address)
      if (match === null) continue
      meeting.push(sender)
      if (match === 'msb-only') coarse.push(sender)
    }
    return { mapping, ...target, listening, senders, meeting, coarse }
  },
)

/**
 * Every one of these mappings whose destination and parameter are there, with what it rests on. The same object
 * again as long as all of that is the same.
 */
export function resolveMappings(rig: Rig, mappings: readonly Mapping[] = rig.mappings): ResolvedMapping[] {
  const delivery = deliveryOf(rig)
  return mappings.flatMap((mapping): ResolvedMapping[] => {
    const target = mappingParameter(rig, mapping)
    if (!target) return []
    const senders = mapping.gesture === null ? NOBODY : sendersOfGesture(rig, mapping.gesture)
    return [resolve({ delivery, mapping, target, senders })]
  })
}

const NOBODY: readonly Sender[] = []

/**
 * Who sets a mapping off at its destination, whether meant or not: what arrives in the cells that it listens at. Carriers
 * do not; the LSB of a pair does, if it is heard by itself.
 */
export function hitsOn(occupancy: Occupancy, { destination, listening }: ResolvedMapping): Hit[] {
  if (!listening) return []
  const { address } = listening
  const cells = cellsListened(address)
  const isProgram = address.scope === 'channel' && address.target.kind === 'program'
  return occupancy.buses
    .filter((bus) => bus.destination === destination.id)
    .flatMap((bus) => cells.flatMap((cell) => hitsAt(occupancy, bus, cell)))
    .filter(
      ({ cell, sender }) =>
        cell.role !== 'carrier' &&
        // Programs of another bank are other programs.
        (!isProgram || matchAt(occupancy.rig, sender, destination.id, address) !== null),
    )
}

/** The address that a sender sends for a mapping: that of its one key, where it names one. Null where it sends none. */
export function sentFor(sender: Sender, { key }: Pick<Mapping, 'key'>): Address | null {
  if (key === null) return sender.address
  const alone = keyAlone(outgoing(sender), key)
  return alone && sentAddress(alone, sender.channel)
}

/** What a destination gets of a sender, or of one key of it, as addresses: what it could learn. */
export const landedOf = (rig: Rig, sender: Sender, destination: Id, key: number | null = null): Address[] =>
  arrivalsFor(deliveryOf(rig), sender, key)
    .filter(({ bus }) => bus.destination === destination)
    .flatMap(({ messages }) => messages.flatMap(landedAt))

/** Messages of a sender that arrive where a mapping listens, as they arrive. */
export function drivingMessages(
  rig: Rig,
  sender: Sender,
  { mapping, destination, listening }: ResolvedMapping,
): SentMessage[] {
  if (!listening) return []
  return arrivalsFor(deliveryOf(rig), sender, mapping.key)
    .filter(({ bus }) => bus.destination === destination.id)
    .flatMap(({ bus, messages }) =>
      messages.filter((message) =>
        landedAt(message).some((landed) => matchOf(listening.address, landed, bus.mergesChannels) !== null),
      ),
    )
}

/** One address that a destination can be taught, or null for spans, and for what several lie in. */
const asLearned = (address: Address): LearnedAddress | null => {
  if (address.scope === 'system') return { scope: 'system', target: address.target }
  const { channel, target } = address
  if (typeof channel !== 'number') return null
  if ((target.kind === 'note' || target.kind === 'polyPressure') && target.low !== target.high) return null
  return { scope: 'channel', channel, target }
}

/**
 * The one address that a destination can be taught of a sender, or of one key of it; null where nothing of it arrives,
 * or more than one.
 */
export function lessonOf(
  rig: Rig,
  sender: Sender,
  destination: Id,
  key: number | null,
): LearnedAddress | null {
  if (lossAt(rig, sender, destination) !== null) return null
  const [first] = landedOf(rig, sender, destination, key)
  return first ? asLearned(first) : null
}

/** Where what a sender sends is lost before a destination hears it; null where it is heard, or still wants a number. */
export function lossAt(rig: Rig, sender: Sender, destination: Id): Loss | null {
  const owner = rigIndex(rig).controllers.get(sender.place.controller)
  if (!owner || (isChannelMessage(sender.message) && sender.address === null)) return null
  return lossOf(rig, owner, outgoing(sender), destination)
}
