import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { crowdedRig } from '../testing/crowded-rigs'
import { plan, programs } from '../testing/plans'
import { problemBuilder } from './build-problem'
import { askedSenders, troublesOf } from './free'
import { AllocateRequest } from './request'
import { TERMS, type Score, type Term } from './solver/problem'
import { withRoomForAll } from './solver/roomy'
import { solve } from './solver/solve'

/** Below zero if the first of two scores is better in some terms. */
function compareIn(terms: readonly Term[], a: Score, b: Score): number {
  const differs = terms.find((term) => a[term] !== b[term])
  return differs === undefined ? 0 : a[differs] - b[differs]
}

it('says what is certain where not everyone is asked: nothing is better with all who may move on all channels', () => {
  let proven = 0
  for (let seed = 1; seed <= 6; seed++) {
    const { rig } = crowdedRig({ seed, gestures: 8 + 2 * seed, channels: 1, full: 0.3 + 0.05 * seed })
    const checked = check(rig)
    const request = AllocateRequest.parse({ kind: 'replan' })
    const troubles = troublesOf(checked)
    const { free } = askedSenders(checked, request, troubles)
    const problems = problemBuilder(checked.context, request, free)(troubles)
    const wide = problems.build(new Set(), new Set(free))
    const roomy = solve(problems.roomy(), { steps: 1e5, programs })
    const ofAll = solve(
      withRoomForAll(
        wide.problem,
        (item, candidate) => wide.goesTo(item, candidate) !== null,
        wide.senders.length,
      ),
      { steps: 1e5, programs },
    )
    // One place of each channel stands for all that are like it.
    expect(roomy.score).toEqual(ofAll.score)
    const best = solve(wide.problem, { steps: 4e5, programs })
    const found = plan(rig, { kind: 'replan' })
    expect(compareIn(found.proven, found.score, best.score)).toBeLessThanOrEqual(0)
    if (found.bound) expect(found.bound.value).toBeLessThanOrEqual(best.score[found.bound.term])
    const first = TERMS.slice(0, TERMS.indexOf('breaks'))
    if (first.every((term) => found.proven.includes(term)) && found.bound?.term === 'breaks') proven++
    expect(compareIn(first, roomy.score, best.score)).toBeLessThanOrEqual(0)
  }
  expect(proven).toBeGreaterThan(3)
}, 120_000)
