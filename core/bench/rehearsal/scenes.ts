import { showsIn } from '../../addresses'
import { isInForce, resolveMappings } from '../../mappings'
import {
  memoOf,
  placeKey,
  rigIndex,
  type Controller,
  type Id,
  type Mapping,
  type Place,
  type Rig,
  type Showing,
} from '../../rig'
import { beginPassage, enterScope, switchedOn } from '../played'
import { poweredUp } from '../controller-state'
import { AT_REST } from '../destination'
import type { Misbehaviour } from '../misbehave'
import type { BenchState } from '../running'
import { showingFor } from '../showing'

/** How a rig stands while one gesture is rehearsed. */
export interface Scene {
  /** The passage that it is, or a word for one that is none. */
  name: string
  state: BenchState
}

/** What destinations are asked to do wrong while a rig is rehearsed, by destination. */
export type Misbehaving = Readonly<Record<Id, readonly Misbehaviour[]>>

const OUTSIDE = 'outside the passages'
const ALL = 'as switched on'

/** Every passage as it stands once it has begun, from a rig that was just switched on. */
const passagesOf = memoOf((rig: Rig) =>
  rig.passages.map((passage) => ({
    passage,
    state: beginPassage(rig, switchedOn(rig), passage, 0).state,
  })),
)

/** Every controller and destination at rest, in what shows: what was sent when a passage began is over. */
function atRest(rig: Rig, state: BenchState, controller: Controller, showing: Showing): BenchState {
  return {
    ...state,
    controllers: Object.fromEntries(
      Object.entries(state.controllers).map(([id, each]) => {
        const owner = rigIndex(rig).controllers.get(id)
        const shows = id === controller.id ? showing : each.showing
        return [id, owner ? { ...poweredUp(owner), showing: shows } : each]
      }),
    ),
    destinations: Object.fromEntries(
      Object.entries(state.destinations).map(([id, { scope }]) => [id, { ...AT_REST, scope }]),
    ),
    busyUntil: {},
    comesBack: {},
  }
}

/**
 * Everything in which a gesture has to be moved at a place: each passage in which the place shows, or once outside of all;
 * and once in each scope in which one of its mappings counts that none of these is in.
 */
export function scenesOf(
  rig: Rig,
  controller: Controller,
  place: Place,
  mappings: readonly Mapping[],
  misbehaving: Misbehaving,
): Scene[] {
  const stand = (state: BenchState): BenchState | null => {
    const before = state.controllers[controller.id]
    if (!before) return null
    const showing = showingFor(controller, place, before.showing)
    return { ...atRest(rig, state, controller, showing), misbehaving }
  }
  const shown = passagesOf(rig).filter(({ passage }) => showsIn(rig, passage, place, place.gesture))
  const bases =
    shown.length > 0
      ? shown.map(({ passage, state }) => ({ name: passage.name, state }))
      : [{ name: rig.passages.length > 0 ? OUTSIDE : ALL, state: switchedOn(rig) }]
  const scenes = bases.flatMap(({ name, state }): Scene[] => {
    const stood = stand(state)
    return stood ? [{ name, state: stood }] : []
  })
  const [first] = scenes
  if (!first) return []
  for (const { mapping, meeting } of resolveMappings(rig, mappings)) {
    if (!meeting.some((sender) => placeKey(sender.place) === placeKey(place))) continue
    const isMet = scenes.some(({ state }) =>
      isInForce(rig, mapping, state.destinations[mapping.destination]?.scope ?? null),
    )
    if (isMet) continue
    const scope = rigIndex(rig)
      .destinations.get(mapping.destination)
      ?.scopes.find(({ id }) => id === mapping.scope)
    scenes.push({
      name: scope ? `${first.name}, in ${scope.name}` : `${first.name}, in no scope`,
      state: enterScope(first.state, mapping.destination, mapping.scope),
    })
  }
  return scenes
}
