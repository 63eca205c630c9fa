import { drivenGroups, mappingName, standsFor, type ResolvedMapping } from '../../mappings'
import { sameAddress } from '../../midi'
import { parameterName, type Parameter } from '../../rig'
import type { Sender } from '../../addresses'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { partFix } from '../fixes/mappings'
import { gesturesOf, shareFix } from '../fixes/numbers'
import type { Rule } from '../rule'
import { senderWords, sentAddresses } from '../words'

/** What happens at each press may be pressed from several places. */
const MADE_TO_HAPPEN: ReadonlySet<Parameter['kind']> = new Set(['action', 'note'])

const isOneMessage = (a: Sender, b: Sender): boolean =>
  a === b || (a.address !== null && b.address !== null && sameAddress(a.address, b.address))

/** A pair of senders, one of each mapping, that can move the parameter at the same time from different addresses. */
function pairOf(context: CheckContext, a: ResolvedMapping, b: ResolvedMapping): [Sender, Sender] | null {
  for (const one of a.meeting)
    for (const other of b.meeting) {
      // At one address they are one message to the destination, of which other rules speak.
      if (isOneMessage(one, other) || context.excused(one.gesture, other.gesture)) continue
      if (context.acting([one, other], [a.mapping, b.mapping])) return [one, other]
    }
  return null
}

function draftOf(
  context: CheckContext,
  a: ResolvedMapping,
  b: ResolvedMapping,
  senders: readonly Sender[],
): Draft {
  const { rig } = context
  const [relative, other] = standsFor(b.parameter, a.parameter) ? [b, a] : [a, b]
  const who = senderWords(rig, senders)
  const addresses = sentAddresses(senders)
  return {
    severity: 'warning',
    message:
      a.parameter === b.parameter
        ? `${who} move ${mappingName(rig, a.mapping)} at the same time, each from where it stands: it will jump between them.`
        : `${who} meet whenever ${parameterName(other.parameter)} is what is selected: ${parameterName(relative.parameter)} moves it too (${a.destination.name}).`,
    senders,
    addresses,
    destinations: [a.destination.id],
    about: [a.mapping.id, b.mapping.id].sort().join(' '),
    cures: () => [
      ...(a.mapping.gesture === b.mapping.gesture ? [] : shareFix(context, gesturesOf(senders), addresses)),
      partFix(context, a.mapping),
      partFix(context, b.mapping),
    ],
  }
}

/** Two mappings that are in force together move the same parameter. */
export const doubleDrive: Rule = {
  id: 'double-drive',
  title: 'Two controls move one thing',
  topic: 'values',
  reach: 'mapping',
  excused: true,
  find: (context) => {
    const groups = new Map<string, ResolvedMapping[]>()
    for (const resolved of context.resolved()) {
      if (resolved.meeting.length === 0 || MADE_TO_HAPPEN.has(resolved.parameter.kind)) continue
      for (const group of drivenGroups(resolved.destination, resolved.parameter))
        groups.set(group, [...(groups.get(group) ?? []), resolved])
    }
    const found = new Map<string, Draft>()
    for (const group of groups.values()) {
      group.forEach((a, index) => {
        for (const b of group.slice(index + 1)) {
          const isOne = a.parameter === b.parameter
          if (!isOne && !standsFor(a.parameter, b.parameter) && !standsFor(b.parameter, a.parameter)) continue
          const pair = pairOf(context, a, b)
          if (!pair) continue
          const made = draftOf(context, a, b, pair)
          found.set(made.about, made)
        }
      })
    }
    return [...found.values()]
  },
}
