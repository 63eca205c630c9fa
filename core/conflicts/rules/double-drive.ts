import { drivenGroups, inForceTogether, mappingName, standsFor, type Join } from '../../mappings'
import { parameterName, type Parameter } from '../../rig'
import type { Sender } from '../../addresses'
import { excusedBy, type CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** What happens at each press may be pressed from several places. */
const MADE_TO_HAPPEN: ReadonlySet<Parameter['kind']> = new Set(['action', 'note'])

/** A pair of senders, one of each join, that can move the parameter at the same time from different addresses. */
function pairOf({ live }: CheckContext, a: Join, b: Join): [Sender, Sender] | null {
  for (const one of a.meeting) {
    // At one address they are one message to the destination, of which other rules speak.
    const other = b.meeting.find((candidate) => candidate.tag !== one.tag && live(one, candidate))
    if (other) return [one, other]
  }
  return null
}

function draft({ rig }: CheckContext, a: Join, b: Join, senders: readonly Sender[]): Draft {
  const [relative, other] = standsFor(b.parameter, a.parameter) ? [b, a] : [a, b]
  const who = senderWords(rig, senders)
  const isSame = a.parameter === b.parameter
  return {
    severity: 'warning',
    message: isSame
      ? `${who} move ${mappingName(rig, a.mapping)} at the same time, each from where it stands: it will jump between them.`
      : `${who} meet whenever ${parameterName(other.parameter)} is what is selected: ${parameterName(relative.parameter)} moves it too (${a.destination.name}).`,
    senders,
    addresses: [...new Set(senders.flatMap(({ tag }) => tag ?? []))],
    destinations: [a.destination.id],
    about: [a.mapping.id, b.mapping.id].sort().join(' '),
    cures: { moves: [], share: a.mapping.gesture !== b.mapping.gesture, clear: [a.mapping.id, b.mapping.id] },
  }
}

/** Two mappings that are in force together move the same parameter. */
export const doubleDrive: Rule = {
  id: 'double-drive',
  title: 'Two controls move one thing',
  reach: 'mapping',
  find: (context) => {
    const excused = excusedBy(context.rig)
    const groups = new Map<string, Join[]>()
    for (const join of context.joins()) {
      if (join.meeting.length === 0 || MADE_TO_HAPPEN.has(join.parameter.kind)) continue
      for (const group of drivenGroups(join.destination, join.parameter))
        groups.set(group, [...(groups.get(group) ?? []), join])
    }
    const found = new Map<string, Draft>()
    for (const group of groups.values()) {
      group.forEach((a, index) => {
        for (const b of group.slice(index + 1)) {
          const isOne = a.parameter === b.parameter
          if (!isOne && !standsFor(a.parameter, b.parameter) && !standsFor(b.parameter, a.parameter)) continue
          if (!inForceTogether(context.rig, a.mapping, b.mapping)) continue
          const pair = pairOf(context, a, b)
          if (!pair || excused(pair[0].gesture, pair[1].gesture)) continue
          const made = draft(context, a, b, pair)
          found.set(made.about ?? '', made)
        }
      })
    }
    return [...found.values()]
  },
}
