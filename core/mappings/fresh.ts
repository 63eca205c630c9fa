import {
  parameterOf,
  programmedAt,
  rigIndex,
  type Id,
  type Mapping,
  type Message,
  type Place,
  type Rig,
  placeRef,
} from '../rig'

/** How a destination should take what a message sends. */
export function expectedManner(message: Message | undefined): Mapping['expects'] {
  return message && 'behaviour' in message && message.behaviour.kind === 'relative'
    ? { kind: 'relative', encoding: message.behaviour.encoding }
    : { kind: 'absolute' }
}

/** An id that no mapping of a rig has, nor any of `taken`. */
export function freeMappingId(rig: Rig, taken: ReadonlySet<Id> = new Set()): Id {
  const known = new Set(rig.mappings.map(({ id }) => id))
  let number = known.size + 1
  while (known.has(`map-${number}`) || taken.has(`map-${number}`)) number++
  return `map-${number}`
}

/** A mapping as it is first made: not yet taught, over the whole parameter, expecting what the control sends at a place. */
export function freshMapping(
  rig: Rig,
  id: Id,
  place: Place,
  destination: Id,
  parameter: Id,
  scope: Id | null,
  key: number | null = null,
): Mapping {
  const owner = rigIndex(rig).destinations.get(destination)
  const target = owner ? parameterOf(owner, parameter) : null
  const message = programmedAt(rig, place)?.assignment.messages[0]
  const isMoved = target?.kind !== 'action' && target?.kind !== 'note'
  return {
    id,
    gesture: placeRef(place),
    key,
    destination,
    parameter,
    learnedAt: null,
    scope,
    min: null,
    max: null,
    inverted: false,
    curve: 'linear',
    takeover: 'when-met',
    expects: isMoved ? expectedManner(message) : { kind: 'absolute' },
    feedback: owner?.feedback ?? false,
    memo: '',
  }
}
