import {
  gestureRef,
  powerUpShowing,
  type Choice,
  type Controller,
  type GestureKey,
  type GestureRef,
  type Id,
  type Place,
  type Rig,
  type Showing,
} from '../rig'

/** Something that is held down. */
export interface Held {
  gesture: GestureKey
  key: number
  /** Since when, in ms. */
  at: number
  isLong: boolean
  /** Where it was pressed, if pressing it changed what its own controller shows; else null. */
  place: Place | null
  /** What shows again when it is let go: layers by stack; null where nothing comes back. */
  before: Readonly<Record<Id, Id | null>> | null
}

type LayersTarget = Extract<Choice['targets'][number], { kind: 'layers' }>

/** The layer that a choice makes a stack show. */
function nextLayer(choice: Choice, { stack, layers }: LayersTarget, showing: Showing): Id | null {
  const now = showing.layers[stack] ?? null
  const at = now === null ? -1 : layers.indexOf(now)
  switch (choice.how) {
    case 'this-one':
    case 'while-held':
      return layers[0] ?? null
    case 'next':
      return layers[(at + 1) % layers.length] ?? null
    case 'previous':
      return layers[(at <= 0 ? layers.length : at) - 1] ?? null
    case 'toggle':
      // One layer goes on and off; of two, each press shows the other.
      return layers.length === 1
        ? now === layers[0]
          ? null
          : (layers[0] ?? null)
        : (layers[(at + 1) % layers.length] ?? null)
  }
}

/** What a controller shows after a choice; the same object where the choice is none of its. */
export function afterChoice(choice: Choice, controller: Controller, showing: Showing): Showing {
  let next = showing
  for (const target of choice.targets) {
    if (target.controller !== controller.id) continue
    if (target.kind === 'template') next = powerUpShowing(controller, target.template)
    else if (target.template === next.template)
      next = { ...next, layers: { ...next.layers, [target.stack]: nextLayer(choice, target, next) } }
  }
  return next
}

/** The choices that a gesture makes, on whatever controllers. */
export const choicesOf = (rig: Rig, gesture: GestureRef): Choice[] =>
  rig.choices.filter(({ by }) => by.kind === 'gesture' && by.gesture === gesture)

export interface Chosen {
  showing: Showing
  /** Does the gesture change what its own controller shows? */
  isChange: boolean
  before: Held['before']
}

/** What a controller shows after one of its own gestures is pressed. */
export function chosenBy(rig: Rig, controller: Controller, showing: Showing, gesture: GestureKey): Chosen {
  let next = showing
  const before: Record<Id, Id | null> = {}
  let isComingBack = false
  for (const choice of choicesOf(rig, gestureRef(controller.id, gesture))) {
    const after = afterChoice(choice, controller, next)
    if (choice.how === 'while-held')
      for (const target of choice.targets)
        if (target.kind === 'layers' && target.controller === controller.id) {
          before[target.stack] = next.layers[target.stack] ?? null
          isComingBack = true
        }
    next = after
  }
  return { showing: next, isChange: next !== showing, before: isComingBack ? before : null }
}

/** What shows again when something is let go. */
export const restored = (showing: Showing, { before }: Held): Showing =>
  before === null ? showing : { ...showing, layers: { ...showing.layers, ...before } }
