import type { Sender } from '../addresses'
import type { Join } from '../mappings'
import type { Draft, Fix, Severity } from './finding'

/** What a rule says of a mapping and who sends for it, with cures of its own. */
export const aboutMapping = (
  { mapping, destination }: Join,
  severity: Severity,
  message: string,
  senders: readonly Sender[],
  ready: readonly Fix[],
): Draft => ({
  severity,
  message,
  senders,
  addresses: [...new Set(senders.flatMap(({ tag }) => tag ?? []))],
  destinations: [destination.id],
  about: mapping.id,
  cures: { moves: [], share: false, ready },
})
