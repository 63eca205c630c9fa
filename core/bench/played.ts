import { rigIndex, showingIn, type GestureKey, type Id, type Passage, type Rig } from '../rig'
import { play, showOn } from './controller'
import { poweredUp, type ControllerState } from './controller-state'
import { AT_REST, type DestinationState } from './destination'
import type { Hand } from './hands'
import type { Misbehaviour } from './misbehave'
import {
  chooseElsewhere,
  comeBackElsewhere,
  comeInAt,
  doWith,
  startRunning,
  stepOf,
  type BenchState,
  type Passing,
  type Step,
} from './running'

/** The rig as it is when everything is switched on. */
export const switchedOn = (rig: Rig): BenchState => ({
  controllers: Object.fromEntries(
    rig.controllers.filter(({ inUse }) => inUse).map((each) => [each.id, poweredUp(each)]),
  ),
  destinations: Object.fromEntries(rig.destinations.map(({ id }) => [id, AT_REST])),
  busyUntil: {},
  comesBack: {},
  misbehaving: {},
  taught: rig.mappings,
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
    comesBack: before.comesBack,
    misbehaving: before.misbehaving,
    taught: before.taught,
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
      const [before, after] = [heldIn(state, controllerId), heldIn(running.state, controllerId)]
      for (const gesture of after) if (!before.has(gesture)) chooseElsewhere(running, controller, gesture, at)
      for (const gesture of before)
        if (!after.has(gesture)) comeBackElsewhere(running, controller, gesture, at)
    },
  )

const heldIn = ({ controllers }: BenchState, id: Id): ReadonlySet<GestureKey> =>
  new Set(Object.values(controllers[id]?.held ?? {}).map(({ gesture }) => gesture))

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
  let isCut = false
  for (const controller of rig.controllers) {
    const before = now.controllers[controller.id]
    if (!before) continue
    const next = showOnRig(rig, now, controller.id, showingIn(passage, controller, before.showing), at)
    now = next.state
    passed.push(...next.passed)
    isCut ||= next.isCut
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
    isCut,
  }
}

/** Bytes of a program come in at a controller at `at` ms: lights, where parameters stand, choices, an identity request. */
export function comeInRig(
  rig: Rig,
  state: BenchState,
  controllerId: Id,
  bytes: readonly number[],
  at: number,
): Step {
  const run = startRunning(rig, state)
  const controller = rigIndex(rig).controllers.get(controllerId)
  if (controller) comeInAt(run, controller, bytes, at, 'whoever')
  return stepOf(run)
}

/** Ask a destination to do some things wrong, and nothing else. */
export const misbehave = (state: BenchState, destination: Id, does: readonly Misbehaviour[]): BenchState => ({
  ...state,
  misbehaving: { ...state.misbehaving, [destination]: does },
})

const withDestination = (state: BenchState, id: Id, change: Partial<DestinationState>): BenchState => ({
  ...state,
  destinations: { ...state.destinations, [id]: { ...(state.destinations[id] ?? AT_REST), ...change } },
})

/** Put a destination into a scope by hand; null into none. */
export const enterScope = (state: BenchState, destination: Id, scope: Id | null): BenchState =>
  withDestination(state, destination, { scope })

/** Select something in a destination by hand, a track as a rule: one of `selectionsOf`. */
export const selectIn = (state: BenchState, destination: Id, selected: string): BenchState =>
  withDestination(state, destination, { selected })
