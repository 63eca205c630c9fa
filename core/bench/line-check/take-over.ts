import { printTag } from '../../midi'
import {
  assignmentsAt,
  findGesture,
  gestureRef,
  modelOf,
  rigIndex,
  shownPlace,
  splitGestureKey,
  withAddress,
  type Id,
  type Rig,
  type RigEdit,
  type Showing,
} from '../../rig'
import type { Line, NamedCause, Stranger } from './check'

/** Edits that make what is written the same as what the hardware does, with what that is called. */
export interface TakeOver {
  label: string
  edits: readonly RigEdit[]
}

/** How a cause is taken over into the rig; null where it cannot be, or is to be put right on the hardware. */
export function takeOverCause(rig: Rig, id: Id, { cause }: NamedCause): TakeOver | null {
  const controller = rigIndex(rig).controllers.get(id)
  if (!controller || cause.kind !== 'home') return null
  return {
    label: `Home channel ${cause.channel} for ${controller.name}`,
    edits: [{ type: 'controller-set', controller: id, set: { homeChannel: cause.channel } }],
  }
}

/**
 * How what the hardware no longer has is taken off the surface; null where there is nothing of it, or where another controller has the
 * same surface.
 */
export function takeOffGone(rig: Rig, id: Id, lines: readonly Line[]): TakeOver | null {
  const controller = rigIndex(rig).controllers.get(id)
  const gone = new Set(lines.flatMap(({ state, gesture }) => (state === 'gone' ? [gesture] : [])))
  if (!controller || gone.size === 0) return null
  if (rig.controllers.some((other) => other.id !== id && other.model === controller.model)) return null
  const { surface, id: model } = modelOf(rig, controller)
  // Of what is there something was asked for that is not gone.
  const there = new Set(
    lines.flatMap(({ state, gesture }) => (state === 'gone' ? [] : [splitGestureKey(gesture).control])),
  )
  const touched = new Set([...gone].map((gesture) => splitGestureKey(gesture).control))
  const whole = [...touched].filter((control) => !there.has(control))
  const parts = surface.controls
    .filter((control) => touched.has(control.id) && there.has(control.id))
    .map((control) => ({
      id: control.id,
      set: { gestures: control.gestures.filter((kind) => !gone.has(`${control.id}.${kind}`)) },
    }))
  return {
    label: `Take what is gone off ${controller.name}`,
    edits: [
      ...(parts.length > 0 ? [{ type: 'controls-set', model, controls: parts } as const] : []),
      ...(whole.length > 0 ? [{ type: 'controls-remove', model, controls: whole } as const] : []),
    ],
  }
}

/** How something that nothing explains is written down for the gesture that sent it; null until that is known. */
export function takeOverStranger(
  rig: Rig,
  id: Id,
  showing: Showing,
  { touched, address }: Stranger,
): TakeOver | null {
  const controller = rigIndex(rig).controllers.get(id)
  const found = touched === null ? null : findGesture(rig, gestureRef(id, touched))
  const place = controller && touched !== null ? shownPlace(controller, showing, touched) : null
  const message =
    place && controller && touched !== null
      ? assignmentsAt(controller, place)?.[touched]?.messages[0]
      : undefined
  if (!found || !place || !message) return null
  return {
    label: `${found.control.label || found.control.kind} sends ${printTag(address)}`,
    edits: [
      {
        type: 'message',
        at: place,
        index: 0,
        message: withAddress(message, address, found.control.kind, found.gesture),
      },
    ],
  }
}
