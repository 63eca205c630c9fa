import { hitsOn, mappingName, printExpected } from '../../mappings'
import { shortListed, senderWords } from '../words'
import type { Draft } from '../finding'
import type { Rule } from '../rule'

/** A mapped control sends another address than its parameter takes, or the parameter has not been taught. */
export const unheard: Rule = {
  id: 'unheard',
  title: 'Not heard',
  reach: 'mapping',
  find: ({ rig, occupancy, joins }) =>
    joins().flatMap((join): Draft[] => {
      const { mapping, expected, senders, meeting, destination } = join
      if (senders.length === 0 || meeting.length > 0) return []
      const sent = [...new Set(senders.flatMap(({ tag }) => tag ?? []))]
      if (sent.length === 0) return []
      const name = mappingName(rig, mapping)
      const who = senderWords(rig, senders)
      const base = {
        senders,
        destinations: [destination.id],
        about: mapping.id,
        cures: { moves: [], share: false, teach: [mapping.id], follow: [mapping.id] },
      }
      if (!expected) {
        return [
          {
            ...base,
            severity: 'advice',
            message: `${name} has not been taught yet: teach it ${shortListed(sent)} with ${who}.`,
            addresses: sent.slice(0, 1),
          },
        ]
      }
      const tag = printExpected(expected)
      const others = [
        ...new Map(
          hitsOn(occupancy, join)
            .filter(({ sender }) => sender.gesture !== mapping.gesture)
            .map(({ sender }) => [sender.key, sender] as const),
        ).values(),
      ]
      const until = others.length === 0 ? '' : ` Until then ${senderWords(rig, others)} moves it.`
      const isCharted = expected.by === 'chart'
      return [
        {
          ...base,
          severity: isCharted ? 'error' : 'warning',
          message: isCharted
            ? `${who} sends ${shortListed(sent)}, but ${name} takes only ${tag}.`
            : `${who} sends ${shortListed(sent)}, but ${name} learned ${tag}: teach it again.${until}`,
          addresses: [tag],
        },
      ]
    }),
}
