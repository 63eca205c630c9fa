import { hitsOn, mappingName, printExpected } from '../../mappings'
import { splitGestureKey, splitGestureRef } from '../../rig'
import type { Sender } from '../../addresses'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** Messages that come along with what a hand does, rather than being what it does. */
function isSecondary({ gesture, message }: Sender): boolean {
  const kind = splitGestureKey(splitGestureRef(gesture).gesture).gesture
  return kind === 'touch' || kind === 'pressure' || message.moment === 'release'
}

/** Touch, release or pressure messages of a control set off a mapping that is not their own. */
export const secondary: Rule = {
  id: 'secondary',
  title: 'Touch that moves something',
  reach: 'mapping',
  find: ({ rig, occupancy, joins, purposes }) =>
    joins().flatMap((join) => {
      if (join.meeting.length === 0 || !join.expected) return []
      const senders = new Map<string, Sender>()
      for (const { sender } of hitsOn(occupancy, join)) {
        if (sender.gesture === join.mapping.gesture || !isSecondary(sender)) continue
        if (!purposes(sender).some(({ mapping }) => mapping.id === join.mapping.id))
          senders.set(sender.key, sender)
      }
      const who = [...senders.values()].filter(
        (sender) => !purposes(sender).some(({ parameter }) => parameter === join.parameter),
      )
      if (who.length === 0) return []
      const tag = printExpected(join.expected)
      return [
        {
          severity: 'error' as const,
          message: `${senderWords(rig, who)} comes along at ${tag} and moves ${mappingName(rig, join.mapping)}, which is not its own.`,
          senders: who,
          addresses: [tag],
          destinations: [join.destination.id],
          about: join.mapping.id,
          cures: { moves: [who], share: false },
        },
      ]
    }),
}
