import { mappingName } from '../../../mappings'
import { mappedRange, positionOf, spanOf } from '../../../values'
import { playRig } from '../../played'
import { meantBy } from '../../selection'
import type { BenchState, Step } from '../../running'
import type { Joined } from '../range'
import { effectsIn, movesBy, type Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

/** The control goes so far in so many ms: slowly enough for takeover to be followed. */
const SWEEP_MS = 256
/** A parameter that goes further than this share of its way at once has jumped. */
const MOST_SHARE = 0.12

/** The parameter stands in the middle, and the control has been heard at its low end. */
function parted({ scene, spot, rig }: Run, { destination, parameter, mapping }: Joined): Step | null {
  const before = scene.state.destinations[destination.id]
  if (!before) return null
  const meant = meantBy(destination, parameter, before.selected)
  const { min, max } = mappedRange(mapping, meant)
  const apart: BenchState = {
    ...scene.state,
    destinations: {
      ...scene.state.destinations,
      [destination.id]: { ...before, values: { ...before.values, [meant.id]: (min + max) / 2 } },
    },
  }
  // A first small movement says where the control is; nothing may come of it yet.
  const { gesture } = spot.place
  const hand = { kind: 'move' as const, gesture, to: 0.02 }
  return playRig(rig, apart, spot.controller.id, hand, 0)
}

function toldOf(run: Run, joined: Joined): Told[] {
  const { rig, spot } = run
  const { mapping, parameter, destination } = joined
  if (mapping.takeover === 'at-once' || mapping.expects.kind !== 'absolute') return []
  if (parameter.kind === 'action' || parameter.kind === 'note' || spanOf(parameter).count !== null) return []
  // Nothing that is moved step by step needs to be taken over.
  if (!run.after.some(({ then }) => then === 'far')) return []
  const first = parted(run, joined)
  const range = mappedRange(mapping, parameter)
  if (!first) return []
  const hand = { kind: 'move' as const, gesture: spot.place.gesture, to: 1, overMs: SWEEP_MS }
  const { passed } = playRig(rig, first.state, spot.controller.id, hand, SWEEP_MS)
  run.messages += first.passed.length + passed.length
  let most = 0
  for (const effect of movesBy(effectsIn([...first.passed, ...passed]), mapping))
    if (effect.kind === 'moves')
      most = Math.max(most, Math.abs(positionOf(range, effect.to) - positionOf(range, effect.from)))
  if (most <= MOST_SHARE) return []
  return [
    {
      weight: 'fault',
      text: `${mappingName(rig, mapping)} jumps by ${Math.round(most * 100)} % when ${moverOf(rig, spot, mapping)} moves, though it is not to be taken over at once.`,
      cure: `See that ${destination.name} takes it over as written, or write takeover at once.`,
      place: spot.place,
      mapping: mapping.id,
      concerns: 'one' as const,
      parameter: { destination: destination.id, id: parameter.id },
    },
  ]
}

/** Did takeover jump? */
export const takeover: Check = {
  id: 'takeover',
  find: (run) =>
    run.joined.flatMap((joined) => (run.unseen.has(joined.mapping.id) ? toldOf(run, joined) : [])),
}
