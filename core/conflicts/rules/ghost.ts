import { mappingName, printExpected } from '../../mappings'
import { rigIndex, splitGestureRef, type Rig } from '../../rig'
import type { Sender } from '../../addresses'
import { hitsOn, type Join } from '../joins'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** Has the control of a mapping gone, been put away, or does it send something else now? */
const isStale = (join: Join): boolean => join.meeting.length === 0

function whoseWords(rig: Rig, { mapping }: Join): string {
  if (mapping.gesture === null) return 'a control that is gone'
  const owner = rigIndex(rig).controllers.get(splitGestureRef(mapping.gesture).controller)
  if (!owner) return 'a controller that is gone'
  return owner.inUse
    ? `a control of ${owner.name} that sends something else now`
    : `${owner.name}, which is put away`
}

/** An old or foreign mapping is set off by another control. */
export const ghost: Rule = {
  id: 'ghost',
  title: 'Old mapping set off',
  find: ({ rig, occupancy, joins, purposes }) =>
    joins().flatMap((join) => {
      if (!join.expected || join.expected.by === 'chart' || !isStale(join)) return []
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
          message: `${senderWords(rig, who)} sets off ${mappingName(rig, join.mapping)}, an old mapping at ${tag} of ${whoseWords(rig, join)}.`,
          senders: who,
          addresses: [tag],
          destinations: [join.destination.id],
          about: join.mapping.id,
          cures: { moves: [who], share: false, clear: [join.mapping.id] },
        },
      ]
    }),
}
