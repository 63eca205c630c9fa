import { isChannelMessage, numberOf, type Channel } from '../midi'
import {
  fitsNumber,
  numberBounds,
  withChannel,
  withKind,
  withNumber,
  type Cable,
  type CableKind,
  type CableRule,
  type Message,
} from '../rig'

/** What a cable looks at of a message: its kind, channel (null: none), and number (null: none, or several). */
export interface Signature {
  kind: CableKind
  channel: Channel | null
  number: number | null
}

/** What a cable does with a message. `rule` is the one that decided; null where none matched. */
export type Handling =
  | { kind: 'pass' }
  | { kind: 'stop'; rule: CableRule | null }
  | { kind: 'rewrite'; rule: Extract<CableRule, { kind: 'rewrite' }>; to: Signature }

const includesOrEmpty = <T>(list: readonly T[], value: T): boolean =>
  list.length === 0 || list.includes(value)

function matches({ match }: CableRule, { kind, channel, number }: Signature): boolean {
  if (!includesOrEmpty(match.kinds, kind)) return false
  if (match.channels.length > 0 && (channel === null || !match.channels.includes(channel))) return false
  if (match.low !== null && (number === null || number < match.low)) return false
  return match.high === null || (number !== null && number <= match.high)
}

/** Where a rewrite takes a message, or null where it would land outside what the standard has. */
function rewritten({ match, to }: Extract<CableRule, { kind: 'rewrite' }>, of: Signature): Signature | null {
  const kind = to.kind ?? of.kind
  const channel = to.channel ?? of.channel
  if (numberBounds(kind) === null) return { kind, channel, number: null }
  const moved =
    to.number === null
      ? of.number
      : of.number === null
        ? to.number
        : to.number + of.number - (match.low ?? of.number)
  if (moved === null) return { kind, channel, number: null }
  if (fitsNumber(kind, moved)) return { kind, channel, number: moved }
  // A number that is not told and does not fit is left open: nothing lands anywhere.
  return to.number === null && kind !== of.kind ? { kind, channel, number: null } : null
}

/** What a cable does with messages of a signature: the first rule that matches decides, else `otherwise`. */
export function handled(cable: Cable, of: Signature): Handling {
  const rule = cable.rules.find((candidate) => matches(candidate, of))
  if (!rule) return cable.otherwise === 'pass' ? { kind: 'pass' } : { kind: 'stop', rule: null }
  switch (rule.kind) {
    case 'pass':
      return { kind: 'pass' }
    case 'stop':
      return { kind: 'stop', rule }
    case 'rewrite': {
      const to = rewritten(rule, of)
      return to ? { kind: 'rewrite', rule, to } : { kind: 'stop', rule }
    }
  }
}

/** What cables look at of a message whose channel is a number by now, not home. */
export const signatureOf = (message: Exclude<Message, { kind: 'off' }>): Signature => ({
  kind: message.kind,
  channel: isChannelMessage(message) && typeof message.channel === 'number' ? message.channel : null,
  number: numberOf(message),
})

/** A message as a rewrite leaves it. */
function applied(message: Message, { rule, to }: Extract<Handling, { kind: 'rewrite' }>): Message {
  let next = to.kind === message.kind ? message : withKind(message, to.kind, 'button', 'press')
  if (to.number !== null && numberOf(next) !== to.number) next = withNumber(next, to.number)
  if (to.channel !== null) next = withChannel(next, to.channel)
  const { range } = rule.to
  return range !== null && 'range' in next ? ({ ...next, range } as Message) : next
}

/**
 * What a cable hands on of a message whose channel is a number: the message, a rewritten one, or null where it
 * stops.
 */
export function carried(cable: Cable, message: Message): Message | null {
  if (message.kind === 'off') return null
  if (isPlainCable(cable)) return message
  const how = handled(cable, signatureOf(message))
  switch (how.kind) {
    case 'pass':
      return message
    case 'stop':
      return null
    case 'rewrite':
      return applied(message, how)
  }
}

/** Does a cable hand on everything as it is? */
export const isPlainCable = ({ rules, otherwise }: Cable): boolean =>
  rules.length === 0 && otherwise === 'pass'

/** Does any rule of these cables look at single numbers? Then a span of keys is taken key by key. */
export const looksAtNumbers = (cables: readonly Cable[]): boolean =>
  cables.some(({ rules }) =>
    rules.some((rule) => rule.match.low !== null || rule.match.high !== null || rule.kind === 'rewrite'),
  )
