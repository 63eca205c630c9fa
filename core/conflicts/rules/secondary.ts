import { hitsOn, mappingName } from '../../mappings'
import { splitGestureKey, splitGestureRef } from '../../rig'
import type { Sender } from '../../addresses'
import { printTag } from '../../midi'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import { placeCount, senderWords, verb } from '../words'

/** Does a message come along with what a hand does, rather than being what it does? */
export function isSecondary({ gesture, message }: Sender): boolean {
  const kind = splitGestureKey(splitGestureRef(gesture).gesture).gesture
  return kind === 'touch' || kind === 'pressure' || message.moment === 'release'
}

/** Touch, release or pressure messages of a control set off a mapping that is not their own. */
export const secondary: Rule = {
  id: 'secondary',
  title: 'Touch that moves something',
  topic: 'meeting',
  reach: 'mapping',
  byNumbers: true,
  safe: ['move'],
  excused: true,
  find: (context) => {
    const { rig, occupancy, purposes, excused } = context
    return context.resolved().flatMap((resolved) => {
      const { mapping, listening, destination, parameter, meeting } = resolved
      if (meeting.length === 0 || !listening) return []
      const senders = new Map<string, Sender>()
      for (const { sender } of hitsOn(occupancy, resolved)) {
        if (sender.gesture === mapping.gesture || !isSecondary(sender)) continue
        if (mapping.gesture !== null && excused(sender.gesture, mapping.gesture)) continue
        if (purposes(sender).some((purpose) => purpose.parameter === parameter)) continue
        if (meeting.some((owner) => context.acting([owner, sender], [mapping])))
          senders.set(sender.key, sender)
      }
      const who = [...senders.values()]
      if (who.length === 0) return []
      const isOne = placeCount(who) === 1
      return [
        {
          severity: 'error' as const,
          message: `${senderWords(rig, who)} ${isOne ? 'comes' : 'come'} along at ${printTag(listening.address)} and ${verb(placeCount(who), 'moves', 'move')} ${mappingName(rig, mapping)}, which is not ${isOne ? 'its' : 'their'} own.`,
          senders: who,
          addresses: [listening.address],
          destinations: [destination.id],
          about: mapping.id,
          setsOff: mapping.id,
          ...(mapping.gesture === null
            ? {}
            : { between: [mapping.gesture, ...who.map(({ gesture }) => gesture)] }),
          moves: [who],
          cures: () => moveFixes(context, [who]),
        },
      ]
    })
  },
}
