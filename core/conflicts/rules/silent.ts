import { mappingName, type ResolvedMapping } from '../../mappings'
import { findGesture, gestureName, rigIndex, stackOfLayer, type Place, type Rig } from '../../rig'
import { clearFixes } from '../fixes/mappings'
import type { Rule } from '../rule'
import { placesOf } from '../words'

/** Can anything make a layer show: power-up, a choice, or a passage that says so? */
function canShow(rig: Rig, { controller, template: templateId, layer }: Place): boolean {
  if (layer === null) return true
  const template = rigIndex(rig)
    .controllers.get(controller)
    ?.templates.find(({ id }) => id === templateId)
  const stack = template ? stackOfLayer(template, layer) : null
  if (!stack || stack.powerUp === layer) return true
  const isChosen = rig.choices.some(({ targets }) =>
    targets.some(
      (target) =>
        target.kind === 'layers' &&
        target.controller === controller &&
        target.template === templateId &&
        target.stack === stack.id &&
        target.layers.includes(layer),
    ),
  )
  return (
    isChosen ||
    rig.passages.some(({ showing }) =>
      showing.some(
        (shown) =>
          shown.controller === controller &&
          shown.template === templateId &&
          shown.layers.some((each) => each.stack === stack.id && each.layer === layer),
      ),
    )
  )
}

function whySilent(rig: Rig, { mapping, senders, meeting }: ResolvedMapping): string | null {
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  if (!found?.controller.inUse) return null
  if (found.control.silent) return 'sends nothing, being purely analog'
  if (senders.length === 0) return 'sends nothing'
  const fitting = meeting.length > 0 ? meeting : senders
  return fitting.some(({ place }) => canShow(rig, place)) ? null : 'stands in a layer that nothing can show'
}

/** A mapping whose control sends nothing, is off, or is in a layer that nothing can show. */
export const silent: Rule = {
  id: 'silent',
  title: 'Control without a voice',
  topic: 'lessons',
  reach: 'mapping',
  safe: ['clear'],
  find: (context) => {
    const { rig } = context
    return context.resolved().flatMap((resolved) => {
      const { mapping, senders, destination } = resolved
      const why = whySilent(rig, resolved)
      const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
      if (why === null || !found) return []
      return [
        {
          severity: 'error' as const,
          message: `${gestureName(found.control, found.gesture)} (${found.controller.name}) is to move ${mappingName(rig, mapping)}, but ${why}.`,
          senders,
          addresses: [],
          destinations: [destination.id],
          about: mapping.id,
          places: placesOf(rig, [`${found.controller.id}/${found.key}`]),
          cures: () => clearFixes(context, [mapping]),
        },
      ]
    })
  },
}
