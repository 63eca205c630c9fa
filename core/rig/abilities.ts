import { KIND_FACTS } from './surface'
import type { Abilities, ControlKind, Message, MessageKind } from './types'

/** Why the hardware cannot send a kind of message from a kind of control, or null if it can. */
export function kindReason(
  abilities: Abilities,
  { kind: control }: { kind: ControlKind },
  kind: MessageKind,
): string | null {
  if (kind === 'off') return null
  if (kind === 'cc14' && !abilities.fourteenBit) return 'this hardware has no 14-bit controllers'
  const allowed = abilities.kinds[control]
  return allowed && !allowed.includes(kind)
    ? `its ${KIND_FACTS[control].plural.toLowerCase()} cannot send this`
    : null
}

/** Why the hardware cannot send a message as it is written, or null if it can. */
export function abilityReason(
  abilities: Abilities,
  control: { kind: ControlKind },
  message: Message,
): string | null {
  const reason = kindReason(abilities, control, message.kind)
  if (reason !== null) return reason
  const behaviour = 'behaviour' in message ? message.behaviour : null
  return behaviour?.kind === 'relative' && !abilities.relativeEncodings.includes(behaviour.encoding)
    ? 'this hardware does not speak that relative encoding'
    : null
}
