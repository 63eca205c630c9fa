import { CHANNELS } from '../midi'
import type { BuiltProblem, ProblemBuilder } from './build-problem'
import type { AllocateRequest } from './request'
import { certainByCounting } from './solver/by-counting'
import { certainBeside, certainOfErrors, type Certain } from './solver/certain'
import type { Aids } from './solver/exact'
import { leastBreaks } from './solver/least-breaks'
import { leastErrors } from './solver/needs'
import { FIRST_TERMS, type Score } from './solver/problem'
import { closed, type Solution } from './solver/solution'
import { solve, type SolveOptions } from './solver/solve'

/** What planning may be given beside what is asked: who is told of its progress, and what solves linear programs. */
export type AllocateOptions = Pick<SolveOptions, 'onProgress' | 'programs'>

/** Above so many places altogether not everyone may leave its channel, only who has no room and its rivals. */
export const MOST_PLACES = 30_000
/** So many steps at most are gone to say what is certain where not everyone is asked. */
const MOST_STEPS_TO_BOUND = 40_000
/** Of so many places at most everyone is asked where alike ones are counted, or it is said how many have to be left. */
const MOST_PLACES_TO_COUNT = 4_000_000
/** Of so many at most it is said how many breaks there have to be, and not where layers share: that takes several times as long. */
const MOST_PLACES_TO_COUNT_BREAKS = 500_000

/** How many places there are on the channels that senders have. */
export const placesIn = ({ senders, roomFor }: BuiltProblem): number =>
  senders.reduce((sum, _, item) => sum + roomFor(item).length, 0)

/** How many places there are if all may leave their channel. */
export const placesOn = (near: BuiltProblem): number => placesIn(near) * CHANNELS.length

/** Are there few enough places for everyone to be asked, where alike ones are counted? */
export const canBeCounted = (near: BuiltProblem): boolean => placesOn(near) <= MOST_PLACES_TO_COUNT

/** Is nobody left, and nothing lost or unheard? */
export const isLossless = ({ score }: Pick<Solution, 'score'>): boolean =>
  FIRST_TERMS.every((term) => score[term] === 0)

/** Could there be less of what matters most? */
export const isAtStake = ({ bound }: Certain): boolean => FIRST_TERMS.some((term) => term === bound?.term)

/**
 * What is certain of a score, whoever is asked. Where nobody is left, nothing is better than if all who move found room; if that
 * is as good up to the breaks, it is told how many of these there have to be. Else alike ones are counted, or without programs
 * it is told how many have to be left, which is a matching.
 */
export function certainOfAll(
  { steps, shareLayers }: AllocateRequest,
  problems: ProblemBuilder,
  near: BuiltProblem,
  score: Score,
  { countsBreaks = true, ...options }: AllocateOptions & { countsBreaks?: boolean },
): Certain {
  const { programs } = options
  const isStopped = (): boolean => options.onProgress?.({ done: 0, of: 1, proven: [] }) === true
  const wide = () => problems.build(new Set(), near.free).problem
  const limited = Math.min(steps, MOST_STEPS_TO_BOUND)
  const counted = (): Certain => {
    const aids: Aids | null = programs ? { programs, budget: { left: limited }, isStopped } : null
    return aids ? certainByCounting(wide(), score, aids) : certainOfErrors(leastErrors(wide()), score)
  }
  if (score.errors > 0) return canBeCounted(near) && !isStopped() ? counted() : certainOfErrors(0, score)
  const certain = certainBeside(solve(problems.roomy(), { ...options, steps: limited }), score)
  if (isStopped()) return certain
  if (isAtStake(certain)) return programs && canBeCounted(near) ? counted() : certain
  const isSmall = countsBreaks && !shareLayers && placesOn(near) <= MOST_PLACES_TO_COUNT_BREAKS
  return certain.bound?.term === 'breaks' && isSmall ? withBreaks(certain) : certain

  function withBreaks({ proven }: Certain): Certain {
    const value = leastBreaks(wide(), score, isStopped)
    const known = [...proven]
    return { bound: closed({ term: 'breaks', value }, score, known), proven: known }
  }
}
