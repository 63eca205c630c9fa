import { mappingName, resolveMappings } from '../../../mappings'
import { placeKey, type Mapping, type Parameter } from '../../../rig'
import { mappedRange, stepSize, valueText } from '../../../values'
import { meantBy } from '../../selection'
import { movesBy, type Run } from '../run'
import { brokenAt, moverOf, type Check, type Told } from '../told'
import type { Joined } from '../range'

/** Half of one step of fourteen bits' upper half: what sends the MSB alone comes so near to its end, and is there. */
const NEAR = 1 / 128

/** Does what the gesture sends here arrive where a mapping listens, as far as the rig says? */
const isMeant = (rig: Run['rig'], mapping: Mapping, place: Run['spot']['place']): boolean =>
  resolveMappings(rig, [mapping]).some(({ meeting }) =>
    meeting.some((sender) => placeKey(sender.place) === placeKey(place)),
  )

/**
 * May a control that says one thing only do no more than set a value? One of several that set the same parameter may, and one that
 * is no switch: a switch that can only be switched on is stuck there.
 */
const isMeantToSet = ({ rig }: Run, { id, destination }: Mapping, { id: own, kind }: Parameter): boolean =>
  kind !== 'switch' ||
  rig.mappings.some(
    (other) => other.id !== id && other.destination === destination && other.parameter === own,
  )

function toldOf(run: Run, { mapping, parameter, destination }: Joined): Told[] {
  const { rig, spot, scene } = run
  const values: number[] = []
  let hasActed = false
  let isHeldBack = false
  for (const effect of movesBy(run.effects, mapping)) {
    if (effect.kind === 'acts') hasActed = true
    else if (effect.isHeldBack && effect.from === effect.to) isHeldBack = true
    else values.push(effect.to)
  }
  if (hasActed) return []
  const said = new Set(run.passed.map(({ value, messageIndex }) => `${messageIndex} ${value}`))
  const mover = moverOf(rig, spot, mapping)
  const about = {
    weight: 'fault' as const,
    place: spot.place,
    mapping: mapping.id,
    concerns: 'one' as const,
    parameter: { destination: destination.id, id: parameter.id },
  }
  if (values.length === 0) {
    if (!isMeant(rig, mapping, spot.place)) return []
    const { why, cure } = isHeldBack
      ? {
          why: 'It waits to be met, and never is.',
          cure: 'Let its takeover be at once or gradual, or widen what the control sends.',
        }
      : brokenAt(run, mapping)
    return [{ ...about, text: `${mover} does not move ${mappingName(rig, mapping)}. ${why}`, cure }]
  }
  const meant = meantBy(destination, parameter, scene.state.destinations[destination.id]?.selected ?? null)
  const range = mappedRange(mapping, meant)
  const near = Math.max((stepSize(range.span) ?? 0) / 2, (range.max - range.min) * NEAR) + Number.EPSILON
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const missed = [low - range.min > near ? range.min : null, range.max - high > near ? range.max : null]
  const ends = missed.flatMap((end) => (end === null ? [] : [valueText(meant, end)]))
  if (ends.length === 0 || (low === high && said.size === 1 && isMeantToSet(run, mapping, parameter)))
    return []
  const reached =
    low === high
      ? `sets ${mappingName(rig, mapping)} to ${valueText(meant, low)} only`
      : `moves ${mappingName(rig, mapping)} from ${valueText(meant, low)} to ${valueText(meant, high)}`
  return [
    {
      ...about,
      text: `${mover} ${reached}: it does not reach ${ends.join(' or ')}.`,
      cure: 'Widen what the control sends, or narrow the mapping’s from and to.',
    },
  ]
}

/** Did the right parameter reach both of its ends? */
export const ends: Check = {
  id: 'ends',
  find: (run) => run.joined.flatMap((joined) => toldOf(run, joined)),
}
