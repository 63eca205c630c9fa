import type { Channel } from '../midi'
import { senderIn, type ListenState } from './listen'
import { pointsOf } from './trail'

/** A per-note zone: its manager, how many members it has, and whether the hardware has said so itself. */
export interface HeardZone {
  manager: 1 | 16
  members: number
  isTold: boolean
}

/** The RPN by which a manager says how many members its zone has (MIDI Polyphonic Expression 1.0, section 2.1). */
const ZONE_RPN = 6
/** The value is the data byte, which is the MSB where an LSB came too. */
const SEVEN_MAX = 127
const DATA_MSB_SHIFT = 7
const MOST_MEMBERS = 15

/** What a member channel says of one note besides that it sounds (same document, section 2): bend, pressure and CC 74. */
const EXPRESSION = ['bend', 'pressure', 'cc74'] as const
export const expressionOf = (channels: Iterable<Channel>): Set<string> =>
  new Set([...channels].flatMap((channel) => EXPRESSION.map((what) => `${channel}:${what}`)))

/** The senders by which managers say how large their zones are. */
export const ZONE_SENDERS: ReadonlySet<string> = new Set([`1:rpn${ZONE_RPN}`, `16:rpn${ZONE_RPN}`])

function membersTold(heard: ListenState, manager: 1 | 16): number | null {
  const sender = senderIn(heard, `${manager}:rpn${ZONE_RPN}`)
  const last = sender && pointsOf(sender.trail).at(-1)
  if (!sender || !last) return null
  const members = sender.top > SEVEN_MAX ? last.value >> DATA_MSB_SHIFT : last.value
  return members >= 1 && members <= MOST_MEMBERS ? members : null
}

/** The channels on which notes were heard, of these senders. */
export const channelsOfKeys = (heard: ListenState, senders: readonly string[]): Set<Channel> =>
  new Set(
    senders.flatMap((key) => {
      const address = senderIn(heard, key)?.address
      const isNote = address?.scope === 'channel' && address.target.kind === 'note'
      return isNote && typeof address.channel === 'number' ? [address.channel] : []
    }),
  )

/**
 * The zone that keys on these channels play in. Notes on several channels alone are none: a keyboard may be split. The hardware has said
 * that it is one, or each of several channels says more of its note. Where it has not said how many members there are, they reach as
 * far as notes were heard.
 */
export function zoneHeard(heard: ListenState, channels: ReadonlySet<Channel>): HeardZone | null {
  const low = Math.min(...channels)
  const high = Math.max(...channels)
  // The lower zone counts up from 2, the upper one down from 15; no note is played on the manager.
  const manager = low === 2 || high !== 15 ? 1 : 16
  if (channels.size < 2 || channels.has(manager)) return null
  const told = membersTold(heard, manager)
  const speaking = [...channels].filter((channel) =>
    [...expressionOf([channel])].some((key) => senderIn(heard, key) !== undefined),
  )
  if (told === null && speaking.length < 2) return null
  const reached = manager === 1 ? high - 1 : 16 - low
  return { manager, members: told ?? Math.min(MOST_MEMBERS, reached), isTold: told !== null }
}
