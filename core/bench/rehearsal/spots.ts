import type { SentMessage } from '../../midi'
import { assignmentsOf, controlsOf, modelOf, splitGestureKey, type Rig } from '../../rig'
import type { Spot } from './run'

/** Every gesture of the controllers in use that sends something, in every layer. */
export function spotsOf(rig: Rig): Spot[] {
  return rig.controllers
    .filter(({ inUse }) => inUse)
    .flatMap((controller) => {
      const controls = controlsOf(modelOf(rig, controller))
      return [...assignmentsOf(controller)].flatMap(({ place, assignment }): Spot[] => {
        const control = controls.get(splitGestureKey(place.gesture).control)
        const messages = assignment.messages.filter(
          (message): message is SentMessage => message.kind !== 'off',
        )
        return control && !control.silent && messages.length > 0
          ? [{ controller, control, place, messages }]
          : []
      })
    })
}
