import { mappingName, type ResolvedMapping } from '../../mappings'
import type { Sender } from '../../addresses'
import type { GestureRef } from '../../rig'
import { mappingFix } from '../fixes/mappings'
import type { Rule } from '../rule'
import { senderWords, sentAddresses, shortListed } from '../words'

/** Does a control stay where it was left, so that its position can be at odds with another parameter? */
const isAbsolute = ({ message }: Sender): boolean => {
  switch (message.kind) {
    case 'cc':
    case 'cc14':
      return message.behaviour.kind === 'absolute'
    case 'nrpn':
    case 'rpn':
      return message.steps === 'values'
    case 'pitchBend':
      return true
    default:
      return false
  }
}

/** What a control moves in each layer, its base included, template by template. */
function parametersByLayer(group: readonly ResolvedMapping[]): Array<ReadonlyArray<ReadonlySet<string>>> {
  const templates = new Map<string, Map<string, Set<string>>>()
  for (const { meeting, destination, parameter } of group)
    for (const sender of meeting) {
      if (!isAbsolute(sender)) continue
      const layers = templates.get(sender.place.template) ?? new Map<string, Set<string>>()
      templates.set(sender.place.template, layers)
      const layer = sender.place.layer ?? ''
      layers.set(layer, (layers.get(layer) ?? new Set()).add(`${destination.id}/${parameter.id}`))
    }
  return [...templates.values()].map((layers) => [...layers.values()])
}

/** One absolute control drives different parameters by layer, taken over at once: they jump. */
export const layerJump: Rule = {
  id: 'layer-jump',
  title: 'Jump after a change of layer',
  topic: 'layers',
  reach: 'mapping',
  safe: ['soften'],
  find: ({ rig, resolved }) => {
    const groups = new Map<GestureRef, ResolvedMapping[]>()
    for (const each of resolved()) {
      const { gesture } = each.mapping
      if (gesture !== null && each.meeting.some(isAbsolute))
        groups.set(gesture, [...(groups.get(gesture) ?? []), each])
    }
    return [...groups].flatMap(([gesture, group]) => {
      const templates = parametersByLayer(group)
      const jumping = group.filter(
        ({ mapping, destination, parameter }) =>
          mapping.takeover === 'at-once' &&
          templates.some(
            (layers) =>
              layers.some((set) => set.has(`${destination.id}/${parameter.id}`)) &&
              layers.some((set) => !set.has(`${destination.id}/${parameter.id}`)),
          ),
      )
      if (jumping.length === 0) return []
      const senders = [...new Set(group.flatMap(({ meeting }) => meeting.filter(isAbsolute).slice(0, 1)))]
      const names = jumping.map(({ mapping }) => mappingName(rig, mapping))
      return [
        {
          severity: 'warning' as const,
          message: `${senderWords(rig, senders.slice(0, 1))} stays where it is when its layer changes, so ${shortListed(names)} will jump at the first touch: let it be taken over when met.`,
          senders,
          addresses: sentAddresses(senders),
          destinations: [...new Set(group.map(({ destination }) => destination.id))],
          about: gesture,
          cures: () => [
            mappingFix(
              'soften',
              'soften',
              'Take over when met',
              jumping.map(({ mapping }) => mapping.id),
              { takeover: 'when-met' },
            ),
          ],
        },
      ]
    })
  },
}
