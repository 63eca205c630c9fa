import {
  assignmentsAt,
  controlName,
  grownSurface,
  KIND_FACTS,
  modelOf,
  shownPlace,
  type Block,
  type Control,
  type Controller,
  type GestureKind,
  type Rig,
  type RigEdit,
  type Showing,
} from '../rig'
import { knownMessage, type Known } from './known'

/** Where something is drawn, and what its controller shows. */
export interface DrawnOn {
  rig: Rig
  controller: Controller
  showing: Showing
}

/** The gestures of a control with what was heard besides, as they lie in its kind. */
function gesturesWith(control: Control, known: readonly Known[]): GestureKind[] {
  const { gestures, more } = KIND_FACTS[control.kind]
  const has = new Set([...control.gestures, ...known.map(({ gesture }) => gesture)])
  return [...gestures, ...more].filter((gesture) => has.has(gesture))
}

/** What a control sends where it stands now, gesture by gesture, where that differs from what was heard. */
export function messagesHeard(
  { controller, showing }: Pick<DrawnOn, 'controller' | 'showing'>,
  control: Control,
  known: readonly Known[],
): RigEdit[] {
  return known.flatMap((each): RigEdit[] => {
    const at = shownPlace(controller, showing, `${control.id}.${each.gesture}`)
    if (!at) return []
    const before = assignmentsAt(controller, at)?.[at.gesture]?.messages[0] ?? null
    const message = knownMessage(each, before, controller.homeChannel)
    return message && JSON.stringify(message) !== JSON.stringify(before)
      ? [{ type: 'message', at, index: 0, message }]
      : []
  })
}

/**
 * What draws a control that was moved, in its place and with what it sends; of one that stands already, what has been heard of it
 * since. Empty where nothing changes.
 */
export function drawnBy(
  { rig, controller, showing }: DrawnOn,
  control: Control,
  block: Block | null,
  known: readonly Known[],
): RigEdit[] {
  if (known.length === 0) return []
  const { id: model, surface } = modelOf(rig, controller)
  const gestures = gesturesWith(control, known)
  const there = surface.controls.find(({ id }) => id === control.id)
  const messages = messagesHeard({ controller, showing }, control, known)
  if (there) {
    const isMore = gestures.some((gesture) => !there.gestures.includes(gesture))
    const set: RigEdit = { type: 'controls-set', model, controls: [{ id: control.id, set: { gestures } }] }
    return isMore ? [set, ...messages] : messages
  }
  const { width, height } = grownSurface(surface, [control])
  const isLarger = width !== surface.width || height !== surface.height
  const isNewBlock = block !== null && surface.blocks.every(({ id }) => id !== block.id)
  return [
    ...(isLarger ? [{ type: 'surface-set' as const, model, width, height }] : []),
    { type: 'controls-add', model, controls: [{ ...control, gestures }], blocks: isNewBlock ? [block] : [] },
    ...messages,
  ]
}

/** The name of the step that draws a control. */
export const drawnLabel = (control: Control): string => `Draw ${controlName(control)} by moving it`
