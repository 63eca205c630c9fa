import {
  decodeClicks,
  isChannelMessage,
  expressionOn,
  keysFacet,
  PAIR_DISTANCE,
  topOf,
  zoneConfiguration,
  type Address,
  type SentMessage,
} from '../../midi'
import type { Reading } from '../../midi/bytes'
import { messageAt, splitGestureKey, type Controller, type Place } from '../../rig'
import type { ControllerState } from '../controller-state'
import { candidatesOf, readKeys, type Candidate } from './candidates'
import { keyOnMember } from '../express'
import { placed } from '../placed'

/** What was heard, as a message of the template or of none. */
export interface Heard {
  /** Null where nothing in the template sends this. */
  place: Place | null
  messageIndex: number
  /** Can it only have been sent in a layer that does not show here? */
  isElsewhere: boolean
  /** As it came: its channel a number, one key. Null for what has no address. */
  message: SentMessage | null
  /** A value of its range, clicks, or a velocity with 0 to let go. */
  value: number
  key: number
  /** Is more of the same value still to come: the LSB of a pair or of data entry? */
  isHalf: boolean
}

const SEVEN_BITS = 7
const FOURTEEN_TOP = 16_383

/** The value that a message of the template carries, as a reading gives it; null where the reading has none. */
function valueAs(message: SentMessage, reading: Reading): number | null {
  switch (reading.kind) {
    case 'value': {
      if ('behaviour' in message && message.behaviour.kind === 'relative')
        return decodeClicks(message.behaviour.encoding, reading.value & 127)
      const isMsb = topOf(message) === FOURTEEN_TOP && reading.top !== FOURTEEN_TOP
      return isMsb ? reading.value << SEVEN_BITS : reading.value
    }
    case 'carrier':
    case 'lone-data':
      return reading.value
    case 'steps':
      return reading.by
    case 'note':
      if (!reading.isOn) return 0
      return reading.top === FOURTEEN_TOP ? reading.velocity >> SEVEN_BITS : reading.velocity
    case 'signal':
      return 0
    default:
      return null
  }
}

/** Does an LSB follow what was read, if the message is sent as it is written? */
function isHalfOf(message: SentMessage, reading: Reading): boolean {
  if (reading.kind !== 'value' || reading.refines) return false
  if (message.kind === 'cc14') return message.halves !== 'msb-only' && message.behaviour.kind !== 'relative'
  return (message.kind === 'nrpn' || message.kind === 'rpn') && message.steps === 'values' && message.sendsLsb
}

/** The key that plays a note, with the octaves that the hardware is shifted by; as it is where it has none of its own. */
function keyPlaying(message: SentMessage, note: number, octaves: number): number {
  if (!('keys' in message) || message.keys.kind === 'one') return 0
  for (let key = message.keys.low; key <= message.keys.high; key++)
    if (keysFacet.played(message.keys, key + 12 * octaves) === note) return key
  return note
}

/** A message as it came: on the channel and of the key that were heard. */
function asHeard(message: SentMessage, address: Address): SentMessage {
  if (!isChannelMessage(message) || address.scope === 'system') return message
  const channel = typeof address.channel === 'number' ? address.channel : message.channel
  const { target } = address
  const isNote = target.kind === 'note' || target.kind === 'polyPressure'
  return typeof channel === 'number' ? placed(message, channel, isNote ? target.low : null) : message
}

/** The same as a CC by itself, where what was read need not belong together: a carrier, or the LSB of a pair. */
function asPlain(reading: Reading): Reading | null {
  const cc = (channel: number, number: number, value: number): Reading => ({
    kind: 'value',
    address: { scope: 'channel', channel, target: { kind: 'cc', number } },
    value,
    top: 127,
    refines: false,
    alone: null,
  })
  if (reading.kind === 'carrier' || reading.kind === 'lone-data')
    return cc(reading.channel, reading.number, reading.value)
  if (reading.kind !== 'value' || !reading.refines || reading.address.scope === 'system') return null
  const { channel, target } = reading.address
  return target.kind === 'cc14' && typeof channel === 'number'
    ? cc(channel, target.number + PAIR_DISTANCE, reading.value & 127)
    : null
}

const addressOfReading = (reading: Reading): Address | null => ('address' in reading ? reading.address : null)

/** Is the bank the one that the message selects, where both say one? */
const isSameBank = (message: SentMessage, address: Address): boolean =>
  message.kind !== 'program' ||
  address.scope === 'system' ||
  address.target.kind !== 'program' ||
  message.bank === null ||
  address.target.bank === null ||
  (message.bank.msb === address.target.bank.msb && message.bank.lsb === address.target.bank.lsb)

/**
 * Of several messages at one address, the one whose range holds the value; those whose layer shows come first, and of these
 * the one whose control is held: the pressure of pads which share it.
 */
function chosenOf(
  candidates: readonly Candidate[],
  reading: Reading,
  held: ControllerState['held'],
): Candidate | undefined {
  if (candidates.length < 2) return candidates[0]
  const down = new Set(Object.values(held).map(({ gesture }) => splitGestureKey(gesture).control))
  const isHeld = ({ place }: Candidate): boolean => down.has(splitGestureKey(place.gesture).control)
  const isInRange = ({ message }: Candidate): boolean => {
    const value = valueAs(message, reading)
    if (value === null || !('range' in message) || isHalfOf(message, reading)) return true
    const { low, high } = message.range
    return value >= Math.min(low, high) && value <= Math.max(low, high)
  }
  return (
    candidates.find((each) => each.isShown && isHeld(each) && isInRange(each)) ??
    candidates.find((each) => each.isShown && isInRange(each)) ??
    candidates.find(({ isShown }) => isShown) ??
    candidates.find(isInRange) ??
    candidates[0]
  )
}

/** The message of the template that a SysEx is, whatever value it carries; with that value. */
function sysexAs(
  candidates: readonly Candidate[],
  bytes: readonly number[],
): { candidate: Candidate; value: number } | null {
  for (const candidate of candidates) {
    const { message } = candidate
    if (message.kind !== 'sysex' || message.bytes.length + 2 !== bytes.length) continue
    let value = 0
    const isSame = message.bytes.every((place, index) => {
      const byte = bytes[index + 1] ?? 0
      if (place === 'value') value = byte
      else if (place === 'value-high') value = (value & 127) | (byte << SEVEN_BITS)
      else if (place === 'value-low') value = (value & ~127) | byte
      return typeof place !== 'number' || place === byte
    })
    if (isSame) return { candidate, value }
  }
  return null
}

/** A message for what no template says, so that it goes its way all the same. */
function unwritten(reading: Reading): SentMessage | null {
  if (reading.kind === 'sysex')
    return { kind: 'sysex', moment: 'move', bytes: reading.bytes.slice(1, -1), range: { low: 0, high: 127 } }
  const address = addressOfReading(reading)
  const placed = address && messageAt(address)
  if (!placed) return null
  if (reading.kind === 'steps' && (placed.kind === 'nrpn' || placed.kind === 'rpn'))
    return { ...placed, steps: 'increments' }
  return placed
}

/** What the zone of a template says besides its notes: of one note by its member channel, or of itself by its manager. */
function zoneSays(
  candidates: readonly Candidate[],
  address: Address,
  reading: Reading,
  state: ControllerState,
): Heard | null {
  if (address.scope === 'system' || address.target.kind === 'note' || reading.kind !== 'value') return null
  const { channel, target } = address
  const found = candidates.find(({ message }) => message.kind === 'note' && message.keys.kind === 'zone')
  // A message of its own says what it says, whatever zone there is.
  if (!found || candidates.some(({ message, isShown }) => isShown && message.kind !== 'note')) return null
  const { message, place, index } = found
  if (message.kind !== 'note' || message.keys.kind !== 'zone' || typeof channel !== 'number') return null
  const zone = message.keys
  const said = { place, messageIndex: index, isElsewhere: false, isHalf: false }
  if (target.kind === 'rpn')
    return {
      ...said,
      message: zoneConfiguration(zone),
      value: (reading.top === FOURTEEN_TOP ? reading.value >> SEVEN_BITS : reading.value) << SEVEN_BITS,
      key: 0,
    }
  const { bend, pressure, timbre } = expressionOn(channel)
  const expression =
    target.kind === 'pitchBend' ? bend : target.kind === 'channelPressure' ? pressure : timbre
  const key = keyOnMember({ state }, zone, place.gesture, channel) ?? 0
  return { ...said, message: expression, value: reading.value, key }
}

/**
 * What a controller has said with what was read of its bytes: the message of its template that is sent there, one that shows
 * before one that does not. Null for what only prepares another message.
 */
export function attribute(controller: Controller, state: ControllerState, reading: Reading): Heard | null {
  const { showing, octaves, held } = state
  const all = candidatesOf(controller, showing)
  if (reading.kind === 'sysex') {
    const found = sysexAs(all.get('sysex ') ?? [], reading.bytes)
    if (found)
      return {
        place: found.candidate.place,
        messageIndex: found.candidate.index,
        isElsewhere: false,
        message: found.candidate.message,
        value: found.value,
        key: 0,
        isHalf: false,
      }
  }
  for (const way of [reading, asPlain(reading)]) {
    const address = way && addressOfReading(way)
    if (!way || !address) continue
    const [key = ''] = readKeys(address)
    const expressed = zoneSays(all.get(key) ?? [], address, way, state)
    if (expressed) return expressed
    const there = (all.get(key) ?? []).filter(({ message }) => isSameBank(message, address))
    const candidate = chosenOf(there, way, held)
    const value = candidate && valueAs(candidate.message, way)
    if (!candidate || value === undefined || value === null) continue
    const { message, place, index } = candidate
    if (!candidate.isShown && !isOneGesture(there)) continue
    const note = noteOf(address)
    return {
      place,
      messageIndex: index,
      isElsewhere: !candidate.isShown && there.length === 1,
      message: asHeard(message, address),
      value,
      key: note === null ? 0 : keyPlaying(message, note, octaves[place.gesture] ?? 0),
      isHalf: isHalfOf(message, way),
    }
  }
  if (reading.kind === 'carrier') return null
  const message = unwritten(asPlainWhereLone(reading))
  return {
    place: null,
    messageIndex: 0,
    isElsewhere: false,
    message,
    value: (message && valueAs(message, reading)) ?? 0,
    key: 0,
    isHalf: false,
  }
}

/** Is it the same gesture in whatever layers? Of several gestures in layers that do not show, none is known to be it. */
const isOneGesture = (candidates: readonly Candidate[]): boolean =>
  candidates.every(({ place }) => place.gesture === candidates[0]?.place.gesture)

const asPlainWhereLone = (reading: Reading): Reading =>
  reading.kind === 'lone-data' ? (asPlain(reading) ?? reading) : reading

const noteOf = ({ target }: Address): number | null =>
  target.kind === 'note' || target.kind === 'polyPressure' ? target.low : null
