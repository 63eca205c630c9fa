import { isChannelMessage, type Channel, type SentMessage } from '../midi'

const known = new WeakMap<SentMessage, Map<number, SentMessage>>()
/** Notes count from 0; none is one below. */
const NO_NOTE = -1
const NOTES = 256

/**
 * A message as it goes out: on a channel, and of several keys with the note that sounds, else null. The same message placed the
 * same way is the very same object, so that what becomes of it need not be worked out again.
 */
export function placed(message: SentMessage, channel: Channel, note: number | null): SentMessage {
  if (!isChannelMessage(message)) return message
  const ways = known.get(message) ?? new Map<number, SentMessage>()
  known.set(message, ways)
  const key = channel * NOTES + (note ?? NO_NOTE) + 1
  const before = ways.get(key)
  if (before) return before
  const made: SentMessage =
    note !== null && 'keys' in message
      ? { ...message, channel, keys: { kind: 'one', number: note } }
      : { ...message, channel }
  ways.set(key, made)
  return made
}
