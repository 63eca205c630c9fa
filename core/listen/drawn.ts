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
  type Message,
  type Place,
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

/** What a gesture was heard to send beside what is written where it stands now. */
export interface Compared {
  known: Known
  at: Place
  written: Message | null
  /** Null for what cannot be written. */
  heard: Message | null
  isSame: boolean
}

/** Every gesture of a control that was heard and has a place in what shows, with what is written there. */
export function comparedWith(
  { controller, showing }: Pick<DrawnOn, 'controller' | 'showing'>,
  control: Control,
  known: readonly Known[],
): Compared[] {
  return known.flatMap((each): Compared[] => {
    const at = shownPlace(controller, showing, `${control.id}.${each.gesture}`)
    if (!at) return []
    const written = assignmentsAt(controller, at)?.[at.gesture]?.messages[0] ?? null
    const heard = knownMessage(each, written, controller.homeChannel)
    return [{ known: each, at, written, heard, isSame: JSON.stringify(heard) === JSON.stringify(written) }]
  })
}

/** What writes down what was heard, where it differs from what is written. */
export const writingDown = (all: readonly Compared[]): RigEdit[] =>
  all.flatMap(({ at, heard, isSame }) =>
    heard && !isSame ? [{ type: 'message' as const, at, index: 0, message: heard }] : [],
  )

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
  const messages = writingDown(comparedWith({ controller, showing }, control, known))
  if (there) {
    const isMore = gestures.some((gesture) => !there.gestures.includes(gesture))
    const set: RigEdit = { type: 'controls-set', model, controls: [{ id: control.id, set: { gestures } }] }
    return isMore ? [set, ...messages] : messages
  }
  return [...addedTo({ rig, controller }, control, block, gestures), ...messages]
}

/** What puts a control on the surface that is not there, with its block where that is new. */
export function addedTo(
  { rig, controller }: Pick<DrawnOn, 'rig' | 'controller'>,
  control: Control,
  block: Block | null,
  gestures: readonly GestureKind[],
): RigEdit[] {
  const { id: model, surface } = modelOf(rig, controller)
  const { width, height } = grownSurface(surface, [control])
  const isLarger = width !== surface.width || height !== surface.height
  const isNewBlock = block !== null && surface.blocks.every(({ id }) => id !== block.id)
  return [
    ...(isLarger ? [{ type: 'surface-set' as const, model, width, height }] : []),
    {
      type: 'controls-add',
      model,
      controls: [{ ...control, gestures: [...gestures] }],
      blocks: isNewBlock ? [block] : [],
    },
  ]
}

/** The name of the step that draws a control. */
export const drawnLabel = (control: Control): string => `Draw ${controlName(control)} by moving it`
