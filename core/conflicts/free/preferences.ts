import type { Channel } from '../../midi'
import {
  controlsOf,
  modelOf,
  rigIndex,
  splitGestureKey,
  type HouseRule,
  type MessageKind,
  type Place,
  type Rig,
} from '../../rig'

/** A preference for numbers, from the rig's house rules or from a request. */
export type Preference = Pick<
  HouseRule,
  'kind' | 'message' | 'channel' | 'low' | 'high' | 'controller' | 'block'
>

/** The house rules of a rig, and those `asked` besides, that hold for a place and kind of message. */
export function preferencesAt(
  rig: Rig,
  asked: readonly Preference[],
  place: Place,
  kind: MessageKind,
): Preference[] {
  const controller = rigIndex(rig).controllers.get(place.controller)
  const control =
    controller && controlsOf(modelOf(rig, controller)).get(splitGestureKey(place.gesture).control)
  return [...rig.houseRules, ...asked].filter(
    (rule) =>
      (rule.message === kind || (rule.message === 'cc' && kind === 'cc14')) &&
      (rule.controller === null || rule.controller === place.controller) &&
      (rule.block === null || rule.block === control?.block),
  )
}

/** Does a preference speak of a number on a channel? */
export const covers = (rule: Preference, channel: Channel, number: number): boolean =>
  (rule.channel === null || rule.channel === channel) && number >= rule.low && number <= rule.high
