import { recheckWith, type Apply, type Check, type CheckContext } from '../conflicts'
import { mappingName, onceTaught, unheardAfter } from '../mappings'
import type { Rig, RigEdit } from '../rig'
import { problemBuilder } from './build-problem'
import { changesOf } from './changes'
import { firstCures, type FirstCure } from './cures'
import { followersIn } from './followers'
import { askedSenders, troublesOf, type Trouble } from './free'
import { faultsOf } from './faults'
import type { Plan, PlannedChange } from './plan'
import { planned, type Planned } from './planned'
import { reasonsOf } from './reasons'
import type { AllocateRequest } from './request'
import { heldBack, heldErrors, shortagesOf } from './shortages'
import { silencedBy } from './silenced'
import { standIn } from './stand-in'
import { certainBeside } from './solver/certain'
import type { Progress, Solution } from './solver/solve'

/**
 * What brings an error is barred from its address at first; from the whole channel after so many attempts, and from
 * everywhere after twice as many: then it is left as it is.
 */
const ATTEMPTS_EACH = 6

/** Who is struck out keeps those in place with whom it would have gone. */
function withLeaders(context: CheckContext, request: AllocateRequest): AllocateRequest {
  const struck = new Set(request.struck)
  const leaders = context.occupancy.senders.flatMap((sender) =>
    struck.has(sender.key) ? (followersIn(context).leaderOf(sender)?.key ?? []) : [],
  )
  return leaders.length === 0 ? request : { ...request, struck: [...request.struck, ...leaders] }
}

/** What is certain of a plan: where some addresses were barred, the first solution was of a problem with more freedom. */
function certainOf(first: Solution, last: Solution): Pick<Plan, 'proven' | 'bound' | 'isLeast'> {
  return first === last
    ? { proven: last.proven, bound: last.bound, isLeast: last.isLeast }
    : { ...certainBeside(first, last.score), isLeast: false }
}

/**
 * What is certain where someone is left: an error that depends on where something listens can end because that is taught
 * elsewhere, which is not part of what is weighed. So whoever has part in such could have stayed, and made room.
 */
function besideMappings(
  certain: Pick<Plan, 'proven' | 'bound' | 'isLeast'>,
  { built: { free }, solution: { score } }: Planned,
  troubles: readonly Trouble[],
): Pick<Plan, 'proven' | 'bound' | 'isLeast'> {
  const concerned = new Set(
    troubles.flatMap(({ isOfMappings, senders }) => (isOfMappings ? senders.map(({ key }) => key) : [])),
  )
  const open = [...free].filter(({ key }) => concerned.has(key)).length
  if (open === 0 || score.errors === 0) return certain
  const least = certain.bound?.term === 'errors' ? certain.bound.value : score.errors
  return { proven: [], bound: { term: 'errors', value: Math.max(0, least - open) }, isLeast: false }
}

/**
 * Plan addresses for a rig that has been checked: what a request asks for, at the least cost, term by term (see
 * `docs/allocation.md`). The same request always gives the same plan. It makes no error that was not there, and
 * moves nothing that is pinned, fixed at a destination, a pitch, or meant by the standard, unless the request names it.
 */
export function allocate(
  given: Check,
  asked: AllocateRequest,
  apply: Apply,
  onProgress?: (progress: Progress) => boolean,
): Plan {
  if (asked.kind === 'stand-in') return standIn(given, asked, apply)
  const cured = asked.kind === 'repair' ? firstCures(given, asked.struck, apply) : { cures: [], check: given }
  const { context } = cured.check
  const request = withLeaders(context, asked)
  const troubles = troublesOf(cured.check)
  const { free: senders, fixed } = askedSenders(cured.check, request, troubles)
  const buildProblem = problemBuilder(context, request, senders, troubles)
  const barred = new Set<string>()
  let first: Solution | null = null
  for (let attempt = 1; ; attempt++) {
    const last = planned(context, request, buildProblem, barred, onProgress)
    first ??= last.solution
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
    const after = recheckWith(cured.check, onceTaught(context.rig, moved).rig, apply)
    const faults = faultsOf(cured.check, after, moves, apply)
    if (faults.length === 0)
      return {
        ...told({ given, cures: cured.cures, changes, moved, after }),
        shortages: [
          ...shortagesOf(cured.check, request, last, troubles, apply),
          ...(request.kind === 'repair' ? heldErrors(context, request, troubles) : []),
          ...(request.kind === 'fill' || request.kind === 'avoid' ? heldBack(context, request, fixed) : []),
        ],
        free: senders.length,
        score: last.solution.score,
        ...besideMappings(certainOf(first, last.solution), last, troubles),
      }
    const level = Math.min(2, Math.floor((attempt - 1) / ATTEMPTS_EACH))
    for (const { spots } of faults) barred.add(spots[level] ?? '')
  }
}

/** What is told of a plan: what it changes, and what comes of it. */
function told({
  given,
  cures,
  changes,
  moved,
  after,
}: {
  given: Check
  cures: readonly FirstCure[]
  changes: readonly PlannedChange[]
  moved: Rig
  after: Check
}): Pick<Plan, 'cures' | 'changes' | 'edits' | 'resolves' | 'leaves' | 'stale' | 'silenced'> {
  const afterIds = new Set(after.findings.map(({ id }) => id))
  const left = new Set(troublesOf(after).map(({ message }) => message))
  const { rig } = given.context
  const stale = unheardAfter(rig, moved).filter(({ id }) =>
    moved.mappings.some((mapping) => mapping.id === id),
  )
  return {
    cures,
    changes,
    edits: [...cures.flatMap(({ edits }) => edits), ...changes.map(({ edit }): RigEdit => edit)],
    resolves: given.findings.filter(({ id }) => !afterIds.has(id)),
    leaves: after.findings.filter(({ message, severity }) => severity === 'error' && left.has(message)),
    stale: stale.map((mapping) => ({ mapping: mapping.id, name: mappingName(rig, mapping) })),
    silenced: silencedBy(rig, moved, changes, new Set(stale.map(({ id }) => id))),
  }
}
