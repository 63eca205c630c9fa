import { keysFacet, type SentMessage } from './kinds'

/**
 * What one key of a keyboard sends: the message with that key alone, by the note it is written as. Null where the message
 * plays no notes, or has no such key.
 */
export function keyAlone(message: SentMessage, key: number): SentMessage | null {
  if (message.kind !== 'note' && message.kind !== 'polyPressure') return null
  const keys = keysFacet.only(message.keys, key)
  return keys && { ...message, keys }
}
