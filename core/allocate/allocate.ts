import { RULES, type Apply, type Check, type CheckContext } from '../conflicts'
import { mappingName, unheardAfter } from '../mappings'
import type { Rig, RigEdit } from '../rig'
import { problemBuilder } from './build-problem'
import type { AllocateOptions } from './certainty'
import { firstCures, type FirstCure } from './cures'
import { faultless, type Faultless, type Task } from './faultless'
import { followersIn } from './followers'
import { askedSenders, troublesOf } from './free'
import type { Plan, PlannedChange } from './plan'
import type { AllocateRequest } from './request'
import { unsettledIn, withoutHopes } from './settled'
import { heldBack, heldErrors, shortagesOf } from './shortages'
import { silencedBy } from './silenced'
import { certainBeside } from './solver/certain'
import type { Solution } from './solver/solution'
import { standIn } from './stand-in'
import { teachingOf, type Teaching } from './teaching'

/** So many times errors are let end by teaching after some of them did not, then none is. */
const MOST_HOPES = 3

/** Who is struck out keeps those in place with whom it would have gone. */
function withLeaders(context: CheckContext, request: AllocateRequest): AllocateRequest {
  const struck = new Set(request.struck)
  const leaders = context.occupancy.senders.flatMap((sender) =>
    struck.has(sender.key) ? (followersIn(context).leaderOf(sender)?.key ?? []) : [],
  )
  return leaders.length === 0 ? request : { ...request, struck: [...request.struck, ...leaders] }
}

/**
 * Plan addresses for a rig that has been checked: what a request asks for, at the least cost, term by term (see
 * `docs/allocation.md`). The same request always gives the same plan. It makes no error that was not there, and
 * moves nothing that is pinned, fixed at a destination, a pitch, or meant by the standard, unless the request names it.
 */
export function allocate(
  found: Check,
  asked: AllocateRequest,
  apply: Apply,
  given: AllocateOptions = {},
): Plan {
  if (asked.kind === 'stand-in') return standIn(found, asked, apply)
  const cured = asked.kind === 'repair' ? firstCures(found, asked.struck, apply) : { cures: [], check: found }
  const { check } = cured
  const { context } = check
  const request = withLeaders(context, asked)
  const troubles = troublesOf(check)
  const { free: senders, fixed } = askedSenders(check, request, troubles)
  const problemsFor = problemBuilder(context, request, senders)
  /** Was it to stop? Then nothing more is waited for. */
  let isStopped = false
  const options: AllocateOptions = {
    ...given,
    onProgress: (progress) => (isStopped ||= given.onProgress?.(progress) === true),
  }
  const task = { check, request, senders, troubles, problemsFor, apply, options }
  const { made, freer } = hopefully(task, teachingOf(context, senders, troubles))
  const { last, changes, moved, after } = made
  return {
    ...told({ given: found, cures: cured.cures, changes, moved, after }),
    shortages: [
      ...shortagesOf(check, after, isStopped ? { ...request, steps: 0 } : request, last, troubles, apply),
      ...(request.kind === 'repair' ? heldErrors(context, request, troubles) : []),
      ...(request.kind === 'fill' || request.kind === 'avoid' ? heldBack(context, request, fixed) : []),
    ],
    free: senders.length,
    score: last.solution.score,
    ...(freer === null
      ? claimsOf(last.solution)
      : { ...certainBeside(freer, last.solution.score), isLeast: false }),
  }
}

/**
 * A plan without faults in which errors may also end because something is taught elsewhere, as far as they then do.
 * Gives as `freer` what was solved with more freedom than the plan has, if anything: nothing can be better than what is proven of it.
 */
function hopefully(task: Task, teaching: Teaching | null): { made: Faultless; freer: Solution | null } {
  let freer: Solution | null = null
  let hoped = teaching
  for (let tries = 0; ; tries++) {
    const made = faultless(task, hoped)
    freer ??= made.freer
    const failed = hoped ? unsettledIn(made.last, task.senders, made.after) : []
    if (failed.length === 0) return { made, freer }
    freer ??= made.last.solution
    hoped = hoped && tries < MOST_HOPES ? withoutHopes(hoped, failed) : null
  }
}

const claimsOf = ({ proven, bound, isLeast }: Solution): Pick<Plan, 'proven' | 'bound' | 'isLeast'> => ({
  proven,
  bound,
  isLeast,
})

/** The rules whose errors other numbers can cure. */
const NUMBERED = new Set(RULES.filter(({ byNumbers }) => byNumbers === true).map(({ id }) => id))

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
  const { rig } = given.context
  const stale = unheardAfter(rig, moved).filter(({ id }) =>
    moved.mappings.some((mapping) => mapping.id === id),
  )
  return {
    cures,
    changes,
    edits: [...cures.flatMap(({ edits }) => edits), ...changes.map(({ edit }): RigEdit => edit)],
    resolves: given.findings.filter(({ id }) => !afterIds.has(id)),
    leaves: after.findings.filter(({ rule, severity }) => severity === 'error' && NUMBERED.has(rule)),
    stale: stale.map((mapping) => ({ mapping: mapping.id, name: mappingName(rig, mapping) })),
    silenced: silencedBy(rig, moved, changes, new Set(stale.map(({ id }) => id))),
  }
}
