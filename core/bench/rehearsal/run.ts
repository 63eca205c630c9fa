import type { SentMessage } from '../../midi'
import { isInForce, mappingParameter } from '../../mappings'
import {
  mappingsOf,
  placeRef,
  type Control,
  type Controller,
  type Id,
  type Mapping,
  type Place,
  type Rig,
} from '../../rig'
import { playRig } from '../played'
import type { Effect } from '../destination'
import type { BenchState, Passing } from '../running'
import { actsOver, type Act, type Joined } from './range'
import type { Scene } from './scenes'

/** One gesture of a controller in one layer, with what it sends there. */
export interface Spot {
  controller: Controller
  control: Control
  place: Place
  messages: readonly SentMessage[]
}

/** What one message did at one destination. */
export interface Effected {
  destination: Id
  effect: Effect
  passing: Passing
}

/** What came of taking one gesture through its whole range in one scene. */
export interface Run {
  rig: Rig
  scene: Scene
  spot: Spot
  /** What the gesture is joined to that is in force here. */
  joined: readonly Joined[]
  /** What the gesture itself has sent, in order. */
  passed: readonly Passing[]
  /** What that did, in order. */
  effects: readonly Effected[]
  /** How everything stood after each thing that a hand did. */
  after: ReadonlyArray<{ then: Act['then']; state: BenchState }>
  /** Those of the joined that no run has moved before: what is the same in every scene is asked of them only. */
  unseen: ReadonlySet<Id>
  /** Is it the first scene in which the gesture is moved here? */
  isFirst: boolean
  /** How many messages passed, whoever sent them; checks that move more add theirs. */
  messages: number
}

/** What a gesture is joined to while every destination is in the scope that it is in. */
export const joinedIn = (rig: Rig, place: Place, { destinations }: BenchState): Joined[] =>
  mappingsOf(rig, placeRef(place)).flatMap((mapping): Joined[] => {
    const target = mappingParameter(rig, mapping)
    const scope = destinations[mapping.destination]?.scope ?? null
    return target && isInForce(rig, mapping, scope) ? [{ mapping, ...target }] : []
  })

/** When a rehearsed hand begins, in ms: long after anything that was there before. */
const BEGIN_MS = 1000

/** Take a gesture through its whole range in a scene; `seen` are the mappings that were moved before. */
export function run(rig: Rig, scene: Scene, spot: Spot, seen: ReadonlySet<Id>, isFirst: boolean): Run {
  const { controller, control, place } = spot
  const joined = joinedIn(rig, place, scene.state)
  const passed: Passing[] = []
  const after: Array<Run['after'][number]> = []
  let { state } = scene
  let at = BEGIN_MS
  let messages = 0
  for (const { hand, ms, then } of actsOver(control, place.gesture, spot.messages, joined)) {
    const step = playRig(rig, state, controller.id, hand, at)
    state = step.state
    at += ms
    messages += step.passed.length
    for (const each of step.passed)
      if (each.controller === controller.id && each.place?.gesture === place.gesture) passed.push(each)
    if (then !== null) after.push({ then, state })
  }
  const unseen = new Set(joined.flatMap(({ mapping: { id } }) => (seen.has(id) ? [] : [id])))
  return { rig, scene, spot, joined, unseen, passed, effects: effectsIn(passed), after, isFirst, messages }
}

/** Every effect of what a gesture sent, with its destination. */
export function effectsIn(passed: readonly Passing[]): Effected[] {
  const all: Effected[] = []
  for (const passing of passed)
    for (const { destination, effects } of passing.arrived)
      for (const effect of effects) all.push({ destination, effect, passing })
  return all
}

/** Something that moves, or is done, at a destination. */
export type Moves = Extract<Effect, { kind: 'moves' | 'acts' }>

/** The parameter that listened: what moved, or what stood for it. */
export const listenerOf = (effect: Moves): Id => effect.through ?? effect.parameter

/** What a gesture did by one of its mappings. What listens by its chart does so whoever comes. */
export function movesBy(
  effects: readonly Effected[],
  { id, destination: there, parameter, key }: Mapping,
): Moves[] {
  const found: Moves[] = []
  for (const { destination, effect, passing } of effects) {
    if ((effect.kind !== 'moves' && effect.kind !== 'acts') || destination !== there) continue
    if (key !== null && passing.key !== key && passing.key !== 0) continue
    if (effect.mapping === id || listenerOf(effect) === parameter) found.push(effect)
  }
  return found
}
