import { hitsOn, mappingName, printExpected, type Join } from '../../mappings'
import { rigIndex, splitGestureRef, type Rig } from '../../rig'
import type { Sender } from '../../addresses'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** Whose an old mapping is: a control that is gone or put away. Null for one that is in use. */
function formerOwner(rig: Rig, { mapping }: Join): string | null {
  if (mapping.gesture === null) return 'a control that is gone'
  const owner = rigIndex(rig).controllers.get(splitGestureRef(mapping.gesture).controller)
  if (!owner) return 'a controller that is gone'
  return owner.inUse ? null : `${owner.name}, which is put away`
}

/**
 * An old mapping is set off by another control. What a control in use has to be taught again is told by
 * `unheard`.
 */
export const ghost: Rule = {
  id: 'ghost',
  title: 'Old mapping set off',
  reach: 'mapping',
  find: ({ rig, occupancy, joins, purposes }) =>
    joins().flatMap((join) => {
      const former = formerOwner(rig, join)
      if (!join.expected || join.expected.by === 'chart' || former === null) return []
      const senders = new Map<string, Sender>()
      for (const { sender } of hitsOn(occupancy, join)) {
        const isMeant = purposes(sender).some(
          ({ destination, parameter }) => destination === join.destination && parameter === join.parameter,
        )
        if (sender.gesture !== join.mapping.gesture && !isMeant) senders.set(sender.key, sender)
      }
      const who = [...senders.values()]
      if (who.length === 0) return []
      const tag = printExpected(join.expected)
      return [
        {
          severity: 'error' as const,
          message: `${senderWords(rig, who)} sets off ${mappingName(rig, join.mapping)}, an old mapping at ${tag} of ${former}.`,
          senders: who,
          addresses: [tag],
          destinations: [join.destination.id],
          about: join.mapping.id,
          cures: { moves: [who], share: false, clear: [join.mapping.id] },
        },
      ]
    }),
}
