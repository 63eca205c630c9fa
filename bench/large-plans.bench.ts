import { expect, it } from 'vitest'
import { loadPrograms } from '../shared/programs'
import { builtCore } from './built'

const { allocate, AllocateRequest, check, crowdedRig, nineRingsRig, perform, stressRig } = await builtCore()

const programs = await loadPrograms()
const apply: Parameters<typeof allocate>[2] = (rig, edits) => perform(rig, 'plan', edits).rig

/** A plan, with the processor time of this process that it takes. */
function planned(checked: ReturnType<typeof check>, asked: Parameters<typeof AllocateRequest.parse>[0]) {
  const from = process.cpuUsage()
  const plan = allocate(checked, AllocateRequest.parse(asked), apply, { programs })
  const { user, system } = process.cpuUsage(from)
  return { ...plan, seconds: (user + system) / 1e6 }
}

// Nothing has been compiled before: that counts too.
it('whole plans of two thousand gestures', () => {
  const rigs = {
    'not all fit': crowdedRig({ seed: 5, gestures: 2000, channels: 16, full: 0.4 }).rig,
    'all fit': stressRig(2),
  }
  for (const [name, rig] of Object.entries(rigs)) {
    const { free, score, bound, seconds } = planned(check(rig), { kind: 'replan' })
    console.log(
      `  ${name}: ${free} may move, ${seconds.toFixed(1)} s of processor time (10 wanted): ${JSON.stringify(score)}${bound ? `, ${bound.term} ≥ ${bound.value}` : ', closed'}`,
    )
    expect(free).toBeGreaterThan(1800)
  }
}, 300_000)

it('one channel for each, beside staying where there is room, of the demo', () => {
  const checked = check(nineRingsRig('as-found'))
  // Engines first compile what they run: that counts for none of them.
  const second = (asked: Parameters<typeof planned>[1]) => {
    planned(checked, asked)
    return planned(checked, asked)
  }
  const keep = second({ kind: 'replan' })
  for (const kind of ['each-controller', 'each-layer', 'each-destination'] as const) {
    const { score, seconds } = second({ kind: 'replan', policy: { kind } })
    console.log(
      `  ${kind}: ${seconds.toFixed(1)} s of processor time, ${(seconds / keep.seconds).toFixed(1)} times staying (at most 3 wanted): ${JSON.stringify(score)}`,
    )
    expect(score.errors).toBe(0)
  }
}, 300_000)
