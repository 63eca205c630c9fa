import { MESSAGE_KINDS } from '../../rig/schema'

/** Kinds of message as a recipe’s table names them. */
export const SENDING_KINDS: ReadonlySet<string> = new Set<string>(MESSAGE_KINDS)

/** Behaviours as a recipe’s table names them; the empty word is of messages that have none. */
export const BEHAVIOUR_KINDS: ReadonlySet<string> = new Set([
  'absolute',
  'relative',
  'momentary',
  'toggle',
  'trigger',
  'latch',
  'list',
])
