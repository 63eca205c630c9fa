import { rigIndex, showingIn, type Id, type Passage, type Rig } from '../rig'
import { play, showOn } from './controller'
import { poweredUp, type ControllerState } from './controller-state'
import { AT_REST } from './destination'
import type { Hand } from './hands'
import { chooseElsewhere, doWith, type BenchState, type Passing, type Step } from './running'

/** The rig as it is when everything is switched on. */
export const switchedOn = (rig: Rig): BenchState => ({
  controllers: Object.fromEntries(
    rig.controllers.filter(({ inUse }) => inUse).map((each) => [each.id, poweredUp(each)]),
  ),
  destinations: Object.fromEntries(rig.destinations.map(({ id }) => [id, AT_REST])),
  busyUntil: {},
})

/**
 * The same after an edit of the rig: what is new is switched on, what is gone is left out, and what shows a template that is gone
 * is switched on anew.
 */
export function keptOn(rig: Rig, before: BenchState): BenchState {
  const fresh = switchedOn(rig)
  const isThere = (id: Id, state: ControllerState): boolean =>
    rigIndex(rig)
      .controllers.get(id)
      ?.templates.some((template) => template.id === state.showing.template) === true
  return {
    controllers: Object.fromEntries(
      Object.entries(fresh.controllers).map(([id, state]) => {
        const old = before.controllers[id]
        return [id, old && isThere(id, old) ? old : state]
      }),
    ),
    destinations: Object.fromEntries(
      Object.entries(fresh.destinations).map(([id, state]) => [id, before.destinations[id] ?? state]),
    ),
    busyUntil: before.busyUntil,
  }
}

/**
 * A hand does something with a controller at `at` ms: what is sent, along the rig's cables to every destination, and what moves
 * there. Reproducible: the same state and hands give the same messages at the same times.
 */
export const playRig = (rig: Rig, state: BenchState, controllerId: Id, hand: Hand, at: number): Step =>
  doWith(
    rig,
    state,
    controllerId,
    (controller, before) => play(rig, controller, before, hand, at),
    (running, controller) => {
      if (hand.kind === 'press') chooseElsewhere(running, controller, hand.gesture, at)
    },
  )

/** Put a controller to another template or layers by hand, as its own buttons do. */
export const showOnRig = (
  rig: Rig,
  state: BenchState,
  controllerId: Id,
  showing: ControllerState['showing'],
  at: number,
): Step =>
  doWith(rig, state, controllerId, (controller, before) => showOn(rig, controller, before, showing, at))

/** Begin a passage: every controller shows and every destination is in what it says; the rest stays. */
export function beginPassage(rig: Rig, state: BenchState, passage: Passage, at: number): Step {
  let now = state
  const passed: Passing[] = []
  for (const controller of rig.controllers) {
    const before = now.controllers[controller.id]
    if (!before) continue
    const next = showOnRig(rig, now, controller.id, showingIn(passage, controller, before.showing), at)
    now = next.state
    passed.push(...next.passed)
  }
  const scopes = Object.fromEntries(passage.scopes.map(({ destination, scope }) => [destination, scope]))
  return {
    state: {
      ...now,
      destinations: Object.fromEntries(
        Object.entries(now.destinations).map(([id, each]) => [
          id,
          id in scopes ? { ...each, scope: scopes[id] ?? null } : each,
        ]),
      ),
    },
    passed,
  }
}
