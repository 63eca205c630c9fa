import { recheckWith, RULES, type Apply, type Check, type CheckContext } from '../conflicts'
import { mappingName, onceTaught, unheardAfter } from '../mappings'
import { placeKey, type Rig, type RigEdit } from '../rig'
import { problemBuilder } from './build-problem'
import { changesOf } from './changes'
import { firstCures, type FirstCure } from './cures'
import { followersIn } from './followers'
import { askedSenders, troublesOf } from './free'
import { EXTENTS, faultsOf } from './faults'
import type { Plan, PlannedChange } from './plan'
import { certainWithoutPlan, type AllocateOptions } from './certainty'
import { planned, type Planned } from './planned'
import { reasonsOf } from './reasons'
import type { AllocateRequest } from './request'
import { heldBack, heldErrors, shortagesOf } from './shortages'
import { silencedBy } from './silenced'
import { standIn } from './stand-in'
import { teachingOf } from './teaching'
import { certainBeside } from './solver/certain'
import { addressOf } from './solver/problem'
import { withoutProof, type Solution } from './solver/solution'

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
  given: Check,
  asked: AllocateRequest,
  apply: Apply,
  options: AllocateOptions = {},
): Plan {
  if (asked.kind === 'stand-in') return standIn(given, asked, apply)
  const cured = asked.kind === 'repair' ? firstCures(given, asked.struck, apply) : { cures: [], check: given }
  const { context } = cured.check
  const request = withLeaders(context, asked)
  const troubles = troublesOf(cured.check)
  const { free: senders, fixed } = askedSenders(cured.check, request, troubles)
  const problemsFor = problemBuilder(context, request, senders)
  let problems = problemsFor(troubles)
  const barred = new Set<string>()
  // Some errors could also end by teaching: then what is proven is told of a problem that allows for it.
  const teaching = teachingOf(context, senders, troubles)
  /** Was it to stop? Then nothing more is waited for. */
  let isStopped = false
  const heeding: AllocateOptions = {
    ...options,
    onProgress: (progress) => (isStopped ||= options.onProgress?.(progress) === true),
  }
  const withMemory = { ...heeding, memory: new Map() }
  /** How many errors each change has brought, by its key. */
  const faulted = new Map<string, number>()
  /** What was solved with more freedom than the plan has: nothing can be better than what is proven of it. */
  let freer: Solution | null = null
  for (let round = 1; ; round++) {
    const last = planned(context, withSteps(request, round), problems, barred, {
      ...withMemory,
      needsProof: teaching === null,
    })
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
    const after = recheckWith(cured.check, then, apply)
    const left = last.built.senders.filter((_, item) =>
      last.built.isLeft(item, last.solution.choice[item] ?? 0),
    )
    const leftAt = new Set(left.map(({ place }) => placeKey(place)))
    const faults = faultsOf(cured.check, after, taught, moves, leftAt, apply)
    if (faults.length === 0)
      return {
        ...told({ given, cures: cured.cures, changes, moved, after }),
        shortages: [
          ...shortagesOf(
            cured.check,
            after,
            isStopped ? { ...request, steps: 0 } : request,
            last,
            troubles,
            apply,
          ),
          ...(request.kind === 'repair' ? heldErrors(context, request, troubles) : []),
          ...(request.kind === 'fill' || request.kind === 'avoid' ? heldBack(context, request, fixed) : []),
        ],
        free: senders.length,
        score: last.solution.score,
        ...certainOf(last),
      }
    freer ??= last.solution
    // Only where it turns out to matter: it makes problems larger.
    if (request.shareLayers && !problems.isApart) {
      const apart = problemsFor(troubles, { holdsApart: true })
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

  function certainOf(last: Planned): Pick<Plan, 'proven' | 'bound' | 'isLeast'> {
    if (teaching) {
      // What is wanted at once is not solved twice for the sake of a proof.
      if (request.steps === 0 || isStopped) return claimsOf(withoutProof(last.solution))
      const freed = problemsFor(troubles, { teaching })
      const near = problems.build(new Set(), new Set())
      const certain = certainWithoutPlan(request, near, freed, last.solution, heeding)
      if (certain) return { ...certain, isLeast: false }
      const more = planned(context, request, freed, new Set(), withMemory)
      const isThere = more.solution.isLeast && isSamePlace(more, last)
      return { ...certainBeside(more.solution, last.solution.score), isLeast: isThere }
    }
    return freer === null
      ? claimsOf(last.solution)
      : { ...certainBeside(freer, last.solution.score), isLeast: false }
  }
}

const claimsOf = ({ proven, bound, isLeast }: Solution): Pick<Plan, 'proven' | 'bound' | 'isLeast'> => ({
  proven,
  bound,
  isLeast,
})

/** Do two solutions for the same senders put everyone at the same address? */
const isSamePlace = (a: Planned, b: Planned): boolean =>
  a.built.senders.every(
    (_, item) =>
      addressOf(a.built.problem, item, a.solution.choice) ===
      addressOf(b.built.problem, item, b.solution.choice),
  )

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
