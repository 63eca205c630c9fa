import { CHANNELS, landingsOf, PAIR_DISTANCE, isChannelMessage, addressOf, sameTarget } from '../midi'
import type { SentMessage, Address, CellAddress, ChannelAddress } from '../midi'
import { isHeard, type Arrival } from './delivery'

/**
 * How what lands at one address is taken at another: as it is, or only its MSB (7-bit into a pair, or a pair into a
 * 7-bit number).
 */
export type Match = 'whole' | 'msb-only'

/**
 * Does what lands at `landed` arrive where something listens? A listening address without channel hears any. Where
 * channels are merged, all are one. The LSB of a pair by itself is no match.
 */
export function matchOf(listening: Address, landed: Address, mergesChannels = false): Match | null {
  if (listening.scope === 'system' || landed.scope === 'system')
    return listening.scope === landed.scope && sameTarget(listening.target, landed.target) ? 'whole' : null
  if (!mergesChannels && listening.channel !== null && listening.channel !== landed.channel) return null
  const [a, b] = [listening.target, landed.target]
  const isAt = (match: Match, isSame: boolean): Match | null => (isSame ? match : null)
  switch (a.kind) {
    case 'note':
    case 'polyPressure':
      return isAt('whole', b.kind === a.kind && b.low <= a.low && b.high >= a.high)
    case 'program':
      return isAt(
        'whole',
        b.kind === 'program' && b.number === a.number && (a.bank === null || sameTarget(a, b)),
      )
    case 'cc':
      if (b.kind === 'cc14') return isAt('msb-only', b.number === a.number)
      return isAt('whole', (b.kind === 'cc' || b.kind === 'channelMode') && b.number === a.number)
    case 'cc14':
      if (b.kind === 'cc') return isAt('msb-only', b.number === a.number)
      return isAt('whole', b.kind === 'cc14' && b.number === a.number)
    case 'channelMode':
      return isAt('whole', (b.kind === 'cc' || b.kind === 'channelMode') && b.number === a.number)
    case 'nrpn':
    case 'rpn':
      return isAt('whole', b.kind === a.kind && b.number === a.number)
    case 'pitchBend':
    case 'channelPressure':
      return isAt('whole', b.kind === a.kind)
  }
}

/** Where a message, its channel a number, lands. */
export const landedAt = (message: SentMessage): Address[] =>
  isChannelMessage(message)
    ? typeof message.channel === 'number'
      ? landingsOf(message, message.channel)
      : []
    : [addressOf(message)].flatMap((address) => address ?? [])

/** How what arrives at a bus is taken by something that listens there; the best of what lands. */
export function arrivalMatch(listening: Address, { bus, messages }: Arrival): Match | null {
  let found: Match | null = null
  for (const message of messages) {
    for (const landed of landedAt(message)) {
      const match = matchOf(listening, landed, bus.mergesChannels)
      if (match === null || !isHeardThere(bus, listening, landed)) continue
      if (match === 'whole') return match
      found = match
    }
  }
  return found
}

/** Does a bus hear the listened address on the channel on which it lands? */
function isHeardThere(bus: Arrival['bus'], listening: Address, landed: Address): boolean {
  if (bus.hearsAll || listening.scope === 'system' || landed.scope === 'system') return true
  return isHeard(bus, { ...listening, channel: landed.channel })
}

const on = ({ channel }: ChannelAddress, at: (channel: number) => CellAddress): CellAddress[] =>
  (typeof channel === 'number' ? [channel] : CHANNELS).map(at)

/** The cells that set a listening address off. Of a pair the MSB does; of a span each key. Commands have none. */
export function cellsListened(listening: Address): CellAddress[] {
  if (listening.scope === 'system') return []
  const { target } = listening
  switch (target.kind) {
    case 'cc':
    case 'cc14':
    case 'channelMode':
      return on(listening, (channel) => ({ kind: 'cc', channel, number: target.number }))
    case 'note':
    case 'polyPressure':
      return Array.from({ length: target.high - target.low + 1 }, (_, index) => target.low + index).flatMap(
        (number) => on(listening, (channel) => ({ kind: target.kind, channel, number })),
      )
    case 'program':
    case 'nrpn':
    case 'rpn':
      return on(listening, (channel) => ({ kind: target.kind, channel, number: target.number }))
    case 'pitchBend':
    case 'channelPressure':
      return on(listening, (channel) => ({ kind: target.kind, channel, number: 0 }))
  }
}

/** Does a listening address take in a cell? A 14-bit pair takes two. */
export function listensAt(listening: Address, cell: CellAddress): boolean {
  if (listening.scope === 'system') return false
  const { channel, target } = listening
  if (channel !== null && channel !== cell.channel) return false
  switch (target.kind) {
    case 'cc':
    case 'channelMode':
      return cell.kind === 'cc' && cell.number === target.number
    case 'cc14':
      return (
        cell.kind === 'cc' && (cell.number === target.number || cell.number === target.number + PAIR_DISTANCE)
      )
    case 'note':
    case 'polyPressure':
      return cell.kind === target.kind && cell.number >= target.low && cell.number <= target.high
    case 'program':
    case 'nrpn':
    case 'rpn':
      return cell.kind === target.kind && cell.number === target.number
    case 'pitchBend':
    case 'channelPressure':
      return cell.kind === target.kind
  }
}

/** Every cell that an address on a channel takes in: of a pair both numbers, of a span each key. */
export function cellsWithin(address: Address): CellAddress[] {
  const cells = cellsListened(address)
  if (address.target.kind !== 'cc14') return cells
  return cells.flatMap((cell) => [cell, { ...cell, number: cell.number + PAIR_DISTANCE }])
}
