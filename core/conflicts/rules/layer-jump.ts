import { mappingName, type Join } from '../../mappings'
import type { Sender } from '../../addresses'
import type { GestureRef } from '../../rig'
import type { Rule } from '../rule'
import { senderWords, shortListed } from '../words'

const isAbsolute = ({ message }: Sender): boolean =>
  !('behaviour' in message) || message.behaviour.kind === 'absolute'

/** One absolute control drives different parameters by layer, taken over at once: they jump. */
export const layerJump: Rule = {
  id: 'layer-jump',
  title: 'Jump after a change of layer',
  reach: 'mapping',
  find: ({ rig, joins }) => {
    const groups = new Map<GestureRef, Join[]>()
    for (const join of joins()) {
      const { gesture } = join.mapping
      if (
        gesture === null ||
        !join.meeting.some((sender) => isAbsolute(sender) && sender.place.layer !== null)
      )
        continue
      groups.set(gesture, [...(groups.get(gesture) ?? []), join])
    }
    return [...groups.values()].flatMap((group) => {
      const layers = new Set(group.flatMap(({ meeting }) => meeting.map(({ place }) => place.layer)))
      const parameters = new Set(
        group.map(({ destination, parameter }) => `${destination.id}/${parameter.id}`),
      )
      const jumping = group.filter(({ mapping }) => mapping.takeover === 'at-once')
      const [first] = group
      if (layers.size < 2 || parameters.size < 2 || jumping.length === 0 || !first) return []
      const senders = group.flatMap(({ meeting }) => meeting.slice(0, 1))
      const names = jumping.map(({ mapping }) => mappingName(rig, mapping))
      return [
        {
          severity: 'warning' as const,
          message: `${senderWords(rig, senders.slice(0, 1))} stays where it is when its layer changes, so ${shortListed(names)} will jump at the first touch: let it be taken over when met.`,
          senders,
          addresses: [...new Set(senders.flatMap(({ tag }) => tag ?? []))],
          destinations: [...new Set(group.map(({ destination }) => destination.id))],
          about: first.mapping.gesture ?? '',
          cures: { moves: [], share: false, soften: jumping.map(({ mapping }) => mapping.id) },
        },
      ]
    })
  },
}
