import {
  channelOf,
  fitsNumber,
  numberOf,
  withChannel,
  withKind,
  withNumber,
  type Cable,
  type CableRule,
  type Message,
} from '../rig'

const includesOrEmpty = <T>(list: readonly T[], value: T): boolean =>
  list.length === 0 || list.includes(value)

/** Does a rule speak of a message? Its channel must be a number by now, not home. */
function matches({ match }: CableRule, message: Message): boolean {
  if (!includesOrEmpty<string>(match.kinds, message.kind)) return false
  const channel = channelOf(message, 1)
  if (match.channels.length > 0 && (channel === null || !match.channels.includes(channel))) return false
  const number = numberOf(message)
  if (match.low !== null && (number === null || number < match.low)) return false
  return match.high === null || (number !== null && number <= match.high)
}

/** A message as a rewrite leaves it, or null where it would land outside what the standard has. */
function rewritten({ match, to }: Extract<CableRule, { kind: 'rewrite' }>, message: Message): Message | null {
  const number = numberOf(message)
  const moved = to.number === null || number === null ? number : to.number + number - (match.low ?? number)
  const kind = to.kind ?? message.kind
  if (moved !== null && kind !== message.kind && !fitsNumber(kind, moved) && to.number !== null) return null
  let next = kind === message.kind ? message : withKind(message, kind, 'button', 'press')
  if (moved !== null && numberOf(next) !== moved) {
    if (!fitsNumber(next.kind, moved)) return null
    next = withNumber(next, moved)
  }
  if (to.channel !== null) next = withChannel(next, to.channel)
  return to.range !== null && 'range' in next ? ({ ...next, range: to.range } as Message) : next
}

/**
 * What a cable hands on of a message: the message, a rewritten one, or null where it stops. The first
 * rule that matches decides; what matches none passes or stops as the cable says.
 */
export function carried(cable: Cable, message: Message): Message | null {
  const rule = cable.rules.find((candidate) => matches(candidate, message))
  if (!rule) return cable.otherwise === 'pass' ? message : null
  switch (rule.kind) {
    case 'pass':
      return message
    case 'stop':
      return null
    case 'rewrite':
      return rewritten(rule, message)
  }
}

/** Does any rule of these cables look at single numbers? Then a span of keys is taken key by key. */
export const looksAtNumbers = (cables: readonly Cable[]): boolean =>
  cables.some(({ rules }) =>
    rules.some((rule) => rule.match.low !== null || rule.match.high !== null || rule.kind === 'rewrite'),
  )
