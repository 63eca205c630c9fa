import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { followersIn } from './followers'
import { controlsOf, modelOf, readingOrder, rigIndex, splitGestureKey } from '../rig'

/** Neighbours of one block, layer and kind in reading order, each with all that stay among them. */
export function chainsOf(context: CheckContext, free: ReadonlySet<Sender>): Sender[][] {
  const { rig, occupancy } = context
  const { leaderOf } = followersIn(context)
  const groups = new Map<string, Sender[]>()
  for (const sender of occupancy.senders) {
    // Who goes where another goes has no run of its own.
    if (leaderOf(sender) !== null) continue
    const { place, message, messageIndex } = sender
    const controller = rigIndex(rig).controllers.get(place.controller)
    const { control: id, gesture } = splitGestureKey(place.gesture)
    const block = controller && controlsOf(modelOf(rig, controller)).get(id)?.block
    const key = block
      ? `${place.controller}/${place.template}/${place.layer ?? ''}/${block}/${gesture}/${message.kind}/${messageIndex}`
      : sender.key
    const list = groups.get(key)
    if (list) list.push(sender)
    else groups.set(key, [sender])
  }
  return [...groups.values()]
    .filter((group) => group.some((sender) => free.has(sender)))
    .map((group) => {
      const controller = rigIndex(rig).controllers.get(group[0]?.place.controller ?? '')
      if (!controller || group.length === 1) return group
      const controls = controlsOf(modelOf(rig, controller))
      const own = group.flatMap(({ place }) => controls.get(splitGestureKey(place.gesture).control) ?? [])
      const order = new Map(readingOrder(own).map(({ id }, index) => [id, index]))
      const at = ({ place }: Sender): number => order.get(splitGestureKey(place.gesture).control) ?? 0
      return group.toSorted((a, b) => at(a) - at(b))
    })
}
