import { recheckWith, type Apply, type Check } from '../conflicts'
import type { Sender } from '../addresses'
import { onceTaught } from '../mappings'
import { placeKey, type Rig } from '../rig'
import type { problemBuilder } from './build-problem'
import type { AllocateOptions } from './certainty'
import { changesOf } from './changes'
import { EXTENTS, faultsOf } from './faults'
import type { Trouble } from './free'
import type { PlannedChange } from './plan'
import { planned, type Planned } from './planned'
import { reasonsOf } from './reasons'
import type { AllocateRequest } from './request'
import type { Solution } from './solver/solution'
import type { Teaching } from './teaching'

/**
 * What brings an error is barred from its address at first, or from as much as the rule says; from the whole channel when
 * it has brought so many, and from everywhere when it has brought twice as many: then it is left as it is.
 */
const FAULTS_EACH = 2
/** After so many rounds whatever brings an error is left as it is: each of a large rig takes seconds. */
const MOST_ROUNDS = 24
const EVERYWHERE = 2

/** So many rounds are gone with all steps, each after them with half as many, but never with none. */
const WHOLE_ROUNDS = 2
const withSteps = (request: AllocateRequest, round: number): AllocateRequest => ({
  ...request,
  steps: Math.ceil(request.steps / 2 ** Math.max(0, round - WHOLE_ROUNDS)),
})

/** What is planned, and with what. */
export interface Task {
  check: Check
  request: AllocateRequest
  senders: readonly Sender[]
  troubles: readonly Trouble[]
  problemsFor: ReturnType<typeof problemBuilder>
  apply: Apply
  options: AllocateOptions
}

/** A plan that brings no error that was not there. */
export interface Faultless {
  last: Planned
  changes: readonly PlannedChange[]
  /** The rig with the changes. */
  moved: Rig
  /** The same once what they make unheard has been taught again. */
  after: Check
  /** What was solved first, before anything was barred that brought an error; null if that is the plan. */
  freer: Solution | null
}

/**
 * Plan until no change brings an error. What does is barred, and the rest planned again.
 *
 * @param teaching Which errors may end because something is taught elsewhere; null if none is to.
 */
export function faultless(
  { check, request, troubles, problemsFor, apply, options }: Task,
  teaching: Teaching | null,
): Faultless {
  const { context } = check
  const hopes = teaching ? { teaching } : {}
  let problems = problemsFor(troubles, hopes)
  const barred = new Set<string>()
  const withMemory = { ...options, memory: new Map() }
  /** How many errors each change has brought, by its key. */
  const faulted = new Map<string, number>()
  let freer: Solution | null = null
  for (let round = 1; ; round++) {
    const last = planned(context, withSteps(request, round), problems, barred, withMemory)
    const moves = changesOf(
      context,
      last.built,
      last.solution.choice,
      reasonsOf(context, request, troubles, last),
    )
    const changes = moves.map(({ change }) => change)
    const moved = apply(
      context.rig,
      changes.map(({ edit }) => edit),
    )
    // A plan comes with its list of what to teach again: what it leaves is what is left once that is done.
    const { rig: then, taught } = onceTaught(context.rig, moved)
    const after = recheckWith(check, then, apply)
    const left = last.built.senders.filter((_, item) =>
      last.built.isLeft(item, last.solution.choice[item] ?? 0),
    )
    const leftAt = new Set(left.map(({ place }) => placeKey(place)))
    const faults = faultsOf(check, after, taught, moves, leftAt, apply)
    if (faults.length === 0) return { last, changes, moved, after, freer }
    freer ??= last.solution
    // Only where it turns out to matter: it makes problems larger.
    if (request.shareLayers && !problems.isApart) {
      const apart = problemsFor(troubles, { ...hopes, holdsApart: true })
      if (apart.isApart) {
        problems = apart
        continue
      }
    }
    for (const { move, extent } of faults) {
      const before = faulted.get(move.change.key) ?? 0
      faulted.set(move.change.key, before + 1)
      const widest =
        round > MOST_ROUNDS ? EVERYWHERE : Math.max(EXTENTS.indexOf(extent), Math.floor(before / FAULTS_EACH))
      barred.add(move.spots[widest] ?? move.spots[EVERYWHERE])
    }
  }
}
