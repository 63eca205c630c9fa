import type { Channel } from '../../midi'
import { rigIndex, type Id, type Rig } from '../../rig'
import type { Passing } from '../running'

/** How simulated hardware stands that is not as the rig says, to try a line check on. */
export interface Disturbance {
  /** The controller in whose port it is plugged; null where it is in its own. */
  port: Id | null
  /** The home channel that it is set to; null where it is the one that is written. */
  home: Channel | null
  /** Its keys are so many octaves higher. */
  octaves: number
}
export const UNDISTURBED: Disturbance = { port: null, home: null, octaves: 0 }

const SEMITONES = 12
const isNote = (status: number): boolean => status >= 0x80 && status < 0xa0

/** What one message of simulated hardware is, as it comes: by whose port, and its bytes. */
export function disturbed(
  rig: Rig,
  { controller: id, bytes, message }: Pick<Passing, 'controller' | 'bytes' | 'message'>,
  { port, home, octaves }: Disturbance,
): { controller: Id; bytes: readonly number[] } {
  const written = rigIndex(rig).controllers.get(id)?.homeChannel
  const isHome = message !== null && 'channel' in message && message.channel === written
  const isKeys = octaves !== 0 && message?.kind === 'note'
  const status = bytes[0] ?? 0
  return {
    controller: port ?? id,
    bytes: bytes.map((byte, index) => {
      if (home !== null && isHome && byte >= 0x80 && byte < 0xf0) return (byte & 0xf0) | (home - 1)
      return isKeys && index === 1 && isNote(status)
        ? Math.min(127, Math.max(0, byte + octaves * SEMITONES))
        : byte
    }),
  }
}
