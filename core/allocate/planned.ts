import { CHANNELS } from '../midi'
import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import type { BuiltProblem, ProblemBuilder } from './build-problem'
import { CHANNEL_STRIDE } from './candidates'
import {
  canBeCounted,
  certainOfAll,
  isAtStake,
  isLossless,
  MOST_PLACES,
  placesIn,
  placesOn,
  type AllocateOptions,
} from './certainty'
import { groupOf } from './channels'
import type { AllocateRequest } from './request'
import { carriedOver } from './solver/carried'
import { LOOSE, solveInFields, STAYING, type FieldMemory, type Fields } from './solver/fields'
import { leastErrors } from './solver/needs'
import { FIRST_TERMS, type Choice } from './solver/problem'
import { withoutProof, type Progress, type Solution } from './solver/solution'
import { solve, type SolveOptions } from './solver/solve'

interface PlannedOptions extends AllocateOptions, Pick<SolveOptions, 'isHasty' | 'needsProof'> {
  memory?: FieldMemory
}

/** A problem that was put, and what came of it. */
export interface Planned {
  built: BuiltProblem
  solution: Solution
}

/** As `MOST_PLACES`, where all have room, and there is only something learned to be won. */
const MOST_PLACES_TO_WIN = 10_000
/** What is wanted at once for more than so many is looked for on the own channels only. */
const MOST_AT_ONCE = 250
/** Where some of more than so many have no room, rivals are not asked first. */
const MOST_TO_ASK_RIVALS = 400
/** To see whether anyone has to leave its channel, so many times fewer steps are gone. */
const LOOKING_SHARE = 16
const MOST_PLACES_TO_LOOK = 10_000

/** Which items go to one channel together, in the order of the rig; null where each goes by itself. */
function channelGroups(
  { rig }: CheckContext,
  { policy }: AllocateRequest,
  { senders, servedBy, free }: BuiltProblem,
): Fields | null {
  const numbers = new Map<string, number>()
  const fieldFor = (sender: Sender): number => {
    if (!free.has(sender)) return STAYING
    const group = groupOf(rig, policy, sender)
    if (group === null) return LOOSE
    const number = numbers.get(group) ?? numbers.size
    numbers.set(group, number)
    return number
  }
  const groups = senders.map(fieldFor)
  // What mappings lose depends on the channel, so they are of the group that serves them.
  const ofMappings = servedBy.map((all) => {
    const own = new Set(all.map(fieldFor))
    const [only = STAYING] = own
    return own.size === 1 ? only : STAYING
  })
  return numbers.size === 0
    ? null
    : {
        groups: [...groups, ...ofMappings],
        count: numbers.size,
        fieldOf: (address) => Math.floor(address / CHANNEL_STRIDE) - 1,
        within: (address) => address % CHANNEL_STRIDE,
      }
}

/**
 * Those who are left or lose what was learned of them, all who could have had one of the addresses that those who are
 * left could have had, and all of whom only one can stay with one who loses.
 */
function rivalsOf(built: BuiltProblem, choice: Choice): ReadonlySet<Sender> {
  const { problem, senders, free } = built
  const items = senders.map((_, item) => item)
  const left = new Set(items.filter((item) => built.isLeft(item, choice[item] ?? 0)))
  const losing = items.filter((item) => (problem.items[item]?.costs.stale[choice[item] ?? 0] ?? 0) > 0)
  const room = new Set([...left].flatMap((item) => built.roomFor(item)))
  const keeps = (item: number): number[] => {
    const { addresses, takes } = problem.items[item] ?? { addresses: [], takes: [] }
    return [...addresses.keys()].flatMap((candidate) =>
      built.goesTo(item, candidate) === null ? [...(takes[candidate] ?? [])] : [],
    )
  }
  const contested = new Set(losing.flatMap(keeps))
  const isRival = (item: number): boolean =>
    left.has(item) ||
    losing.includes(item) ||
    built.roomFor(item).some((address) => room.has(address)) ||
    keeps(item).some((resource) => contested.has(resource))
  return new Set(senders.filter((sender, item) => free.has(sender) && isRival(item)))
}

/**
 * Solve it on the channels that senders have. Where channels may be left for want of room, that is enough if
 * nobody is left and nothing is lost or unheard: each channel that is left counts as a warning. Else all may go to all
 * channels.
 */
export function planned(
  context: CheckContext,
  request: AllocateRequest,
  problems: ProblemBuilder,
  barred: ReadonlySet<string>,
  { isHasty = false, needsProof = true, onProgress, programs, memory }: PlannedOptions = {},
): Planned {
  let isStopped = false
  const options: SolveOptions = {
    steps: request.steps,
    isHasty,
    needsProof,
    ...(programs ? { programs } : {}),
    onProgress: (progress: Progress): boolean => {
      isStopped ||= onProgress?.(progress) === true
      return isStopped
    },
  }
  const near = problems.build(barred, new Set())
  const together = channelGroups(context, request, near)
  if (together)
    return {
      built: near,
      solution: solveInFields(near.problem, together, CHANNELS.length, options, memory),
    }
  const mayLeave = request.policy.kind === 'keep-if-room'
  // Where channels may be left, it is first seen whether they have to be.
  const looking = mayLeave ? lookingAt(near, options) : options
  const looked = solve(near.problem, looking)
  const isOpen = (looked.bound !== null || looking.enough !== undefined) && request.steps > 0 && !isStopped
  const solvedNear = (): Solution =>
    mayLeave && isOpen ? solve(near.problem, { ...options, start: looked.choice }) : looked
  const solution = isLossless(looked) ? solvedNear() : looked
  const { errors, unmet } = solution.score
  if (!mayLeave || isLossless(solution)) return { built: near, solution }
  const isEnough = request.steps === 0 && near.free.size > MOST_AT_ONCE
  const isToStop = (): boolean => options.onProgress?.({ done: 0, of: 1, proven: [] }) === true
  if (isStopped || isEnough || isToStop()) return { built: near, solution: withoutProof(solution) }
  const solvedWith = (leaving: ReadonlySet<Sender>, from: Planned = { built: near, solution }): Planned => {
    const built = problems.build(barred, leaving)
    const start = carriedOver(from.built.problem, from.solution.choice, built.problem)
    // What is proven where only some may leave their channel is not proven of all.
    const isOfAll = needsProof && leaving.size === near.free.size
    return { built, solution: solve(built.problem, { ...options, start, needsProof: isOfAll }) }
  }
  if (placesOn(near) <= (errors + unmet > 0 ? MOST_PLACES : MOST_PLACES_TO_WIN)) return solvedWith(near.free)
  // Everyone can be asked where alike ones are counted, but what comes after that is as it comes: of many at once, of few only
  // where there is less of what matters most.
  const isCounted = programs !== undefined && !isHasty && request.steps > 0 && canBeCounted(near)
  if (isCounted && errors + unmet > 0 && near.free.size > MOST_TO_ASK_RIVALS) return solvedWith(near.free)
  const rivals = rivalsOf(near, solution.choice)
  const wide = rivals.size === 0 ? { built: near, solution: solvedNear() } : solvedWith(rivals)
  if (rivals.size === near.free.size) return wide
  const open = withoutProof(wide.solution)
  if (request.steps === 0 || isStopped || isHasty) return { ...wide, solution: open }
  const certain = certainOfAll(request, problems, near, open.score, { ...options, countsBreaks: needsProof })
  if (isCounted && isAtStake(certain) && !isToStop()) return solvedWith(near.free, wide)
  return { ...wide, solution: needsProof ? { ...open, ...certain } : open }
}

/**
 * How it is looked whether anyone has to leave its channel: of many places without programs, as it is nearly always seen,
 * and only until it is seen.
 */
function lookingAt(near: BuiltProblem, { programs, ...options }: SolveOptions): SolveOptions {
  const steps = Math.ceil(options.steps / LOOKING_SHARE)
  if (placesIn(near) <= MOST_PLACES_TO_LOOK) return { ...options, steps, ...(programs ? { programs } : {}) }
  if (steps === 0) return { ...options, steps }
  // Someone has to leave its channel then, and nothing more is to be seen.
  const isHasty = leastErrors(near.problem) > 0
  return { ...options, steps, enough: FIRST_TERMS, needsProof: false, isHasty }
}
