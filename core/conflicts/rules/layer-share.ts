import { mappingName, printExpected, type Join } from '../../mappings'
import { allButOne } from '../finding'
import type { Rule } from '../rule'
import { listed, senderWords } from '../words'

/** One address in two layers or templates goes to two parameters in one scope: both move. */
export const layerShare: Rule = {
  id: 'layer-share',
  title: 'One address, two layers, two parameters',
  reach: 'mapping',
  find: ({ rig, joins, live }) => {
    const groups = new Map<string, Join[]>()
    for (const join of joins()) {
      if (!join.expected || join.expected.by === 'chart' || join.meeting.length === 0) continue
      const key = `${join.destination.id} ${join.mapping.scope ?? ''} ${printExpected(join.expected)}`
      groups.set(key, [...(groups.get(key) ?? []), join])
    }
    return [...groups.values()].flatMap((group) => {
      const parameters = new Set(group.map(({ parameter }) => parameter.id))
      const senders = [
        ...new Map(group.flatMap(({ meeting }) => meeting).map((each) => [each.key, each])).values(),
      ]
      const first = group[0]
      const isApart = senders.some((a) => senders.some((b) => a !== b && !live(a, b)))
      if (parameters.size < 2 || !isApart || !first?.expected) return []
      const tag = printExpected(first.expected)
      const names = [...new Set(group.map(({ mapping }) => mappingName(rig, mapping)))]
      return [
        {
          severity: 'error' as const,
          message: `${senderWords(rig, senders)} sends ${tag} in layers that are meant for different things, so ${listed(names)} move together.`,
          senders,
          addresses: [tag],
          destinations: [first.destination.id],
          cures: { moves: allButOne(senders), share: false },
        },
      ]
    })
  },
}
