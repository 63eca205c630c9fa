import { keepsState } from '../../midi'
import { drivesOf, mappingName, standsFor, type ResolvedMapping } from '../../mappings'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { mappingFix } from '../fixes/mappings'
import type { Rule } from '../rule'
import { senderWords, sentAddresses, verb } from '../words'

/** Mappings of other controls that move the same thing. */
const others = (context: CheckContext, resolved: ResolvedMapping): ResolvedMapping[] =>
  context
    .resolved()
    .filter(
      (other) =>
        other.meeting.length > 0 &&
        other.mapping.gesture !== resolved.mapping.gesture &&
        other.destination === resolved.destination &&
        (other.parameter === resolved.parameter || standsFor(other.parameter, resolved.parameter)) &&
        context.acting([], [other.mapping, resolved.mapping]),
    )

/** On and off are kept in the hardware, something else can change the parameter, and the button is not told. */
export const toggleDrift: Rule = {
  id: 'toggle-drift',
  title: 'Button and destination drift apart',
  topic: 'values',
  reach: 'mapping',
  find: (context) =>
    context.resolved().flatMap((resolved): Draft[] => {
      const { rig } = context
      const { mapping, destination, parameter } = resolved
      if (mapping.expects.kind !== 'absolute' || parameter.kind === 'action') return []
      if (mapping.feedback && destination.feedback) return []
      const kept = drivesOf(rig, resolved).filter(({ travel }) => keepsState(travel))
      if (kept.length === 0) return []
      const movers = others(context, resolved).flatMap(({ meeting }) => meeting.slice(0, 1))
      if (movers.length === 0) return []
      const senders = kept.map(({ sender }) => sender)
      return [
        {
          severity: 'warning',
          message: `${senderWords(rig, senders)} keeps on and off in the hardware and is not told when ${senderWords(rig, movers)} ${verb(movers.length, 'changes', 'change')} ${mappingName(rig, mapping)}: a press may then do nothing.`,
          senders,
          addresses: sentAddresses(senders),
          destinations: [destination.id],
          about: mapping.id,
          cures: () =>
            destination.feedback
              ? [
                  mappingFix(
                    `feed-back-${mapping.id}`,
                    'feed-back',
                    'Let the destination say what it is',
                    [mapping.id],
                    { feedback: true },
                  ),
                ]
              : [],
        },
      ]
    }),
}
