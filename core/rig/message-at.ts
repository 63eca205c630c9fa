import { isChannelMessage, withChannel, withTarget, type Address, type SentMessage } from '../midi'
import { freshMessage } from './messages'

/** A plain message that lands at an address; null where the address has no channel of its own. */
export function messageAt(address: Address): SentMessage | null {
  const { kind } = address.target
  const isNote = kind === 'note' || kind === 'polyPressure'
  const message = withTarget(
    freshMessage(kind, isNote ? 'button' : 'knob', isNote ? 'press' : 'turn'),
    address.target,
  )
  if (message.kind === 'off') return null
  if (!isChannelMessage(message)) return message
  return address.scope === 'channel' && typeof address.channel === 'number'
    ? withChannel(message, address.channel)
    : null
}
