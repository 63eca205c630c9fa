import { sameAddress, type Channel } from '../midi'
import {
  findGesture,
  firstNumbers,
  freshMessage,
  mappingsOf,
  perform,
  placeRef,
  programmedAt,
  rigIndex,
  SENDING_TO_LEARN,
  sentAddress,
  withAddress,
  type Destination,
  type Id,
  type Message,
  type Parameter,
  type Place,
  type Rig,
  type RigEdit,
  type SilentGesture,
} from '../rig'
import { chartedAt } from './listening'
import { freeMappingId, freshMapping } from './fresh'

/** What a control can be given in a destination: a parameter, a sound by its note, or a preset by its program. */
export type JoinTarget =
  | { kind: 'parameter'; parameter: Id }
  | { kind: 'note'; number: number }
  | { kind: 'program'; number: number; bank: { msb: number; lsb: number } | null }

export interface JoinedInOrder {
  edits: readonly RigEdit[]
  /** Pairs that are made; those that were there already are not counted. */
  joined: number
  /** Controls and targets that found no partner. */
  controlsLeft: number
  targetsLeft: number
  /** Controls that would have to be told what to send, but are pinned. */
  pinned: number
}

/** The channel on which a destination is to be spoken to, where only one will do. */
function onlyChannel({ hears }: Destination): Channel | null {
  const { channels } = hears.playing
  return channels.kind === 'only' && channels.channels.length === 1 ? (channels.channels[0] ?? null) : null
}

/** The parameter that a sound or preset is by its destination's own chart. */
function parameterAt({ parameters }: Destination, target: JoinTarget): Parameter | null {
  if (target.kind === 'parameter') return parameters.find(({ id }) => id === target.parameter) ?? null
  return (
    parameters.find(
      ({ fixed }) =>
        fixed?.kind === target.kind &&
        fixed.number === target.number &&
        (target.kind !== 'program' ||
          (fixed.kind === 'program' &&
            fixed.bank?.msb === target.bank?.msb &&
            fixed.bank?.lsb === target.bank?.lsb)),
    ) ?? null
  )
}

/** What a control has to send for a target, or null where the target learns. */
function taken(
  rig: Rig,
  place: Place,
  destination: Destination,
  target: JoinTarget,
  parameter: Parameter | null,
): Message | null {
  const found = findGesture(rig, placeRef(place))
  if (!found) return null
  const now =
    programmedAt(rig, place)?.assignment.messages[0] ?? freshMessage('off', found.control.kind, found.gesture)
  const charted = parameter && chartedAt(parameter)
  const wanted =
    target.kind === 'note'
      ? { kind: 'note' as const, low: target.number, high: target.number }
      : target.kind === 'program'
        ? { kind: 'program' as const, number: target.number, bank: target.bank }
        : charted?.address.scope === 'channel'
          ? charted.address.target
          : null
  if (wanted === null) return null
  const fixed = charted?.address.scope === 'channel' ? charted.address.channel : null
  const channel = fixed ?? onlyChannel(destination)
  return withAddress(now, { scope: 'channel', channel, target: wanted }, found.control.kind, found.gesture)
}

/** Are two messages of a controller sent to one address? */
function isSameSent(a: Message, b: Message | undefined, home: Channel): boolean {
  const [one, other] = [sentAddress(a, home), b ? sentAddress(b, home) : null]
  return one === null || other === null ? one === other : sameAddress(one, other)
}

/** What sends nothing and is to move what learns: it gets a free number. Keys play, and are left to it. */
function silentAt(rig: Rig, place: Place): SilentGesture | null {
  const found = findGesture(rig, placeRef(place))
  const programmed = programmedAt(rig, place)
  const isSilent = programmed?.assignment.messages.every(({ kind }) => kind === 'off') ?? true
  return found && isSilent && !programmed?.assignment.pinned && found.control.kind !== 'keybed'
    ? { control: found.control, gesture: found.gesture, place }
    : null
}

/**
 * Join controls to targets of one destination, first to first, second to second. A null target leaves its control
 * as it is. Controls are told what to send where the destination's own chart, or the sound or preset, says so;
 * what learns is joined and has still to be taught, by a control that sends nothing yet with a free number.
 */
export function joinInOrder(
  rig: Rig,
  places: readonly Place[],
  destinationId: Id,
  targets: ReadonlyArray<JoinTarget | null>,
  scope: Id | null,
): JoinedInOrder {
  const first = numbersForSilent(rig, places, destinationId, targets)
  const ready = first.length > 0 ? perform(rig, 'Give numbers', first).rig : rig
  const joined = joinSending(ready, places, destinationId, targets, scope)
  return { ...joined, edits: [...first, ...joined.edits] }
}

/** Edits that give controls a free number that are to move what learns, and send nothing yet. */
function numbersForSilent(
  rig: Rig,
  places: readonly Place[],
  destinationId: Id,
  targets: ReadonlyArray<JoinTarget | null>,
): RigEdit[] {
  const destination = rigIndex(rig).destinations.get(destinationId)
  if (!destination) return []
  const silent = targets.flatMap((target, index) => {
    const place = places[index]
    if (!target || !place) return []
    const parameter = parameterAt(destination, target)
    const learns = parameter !== null && taken(rig, place, destination, target, parameter) === null
    return (learns && silentAt(rig, place)) || []
  })
  const owners = new Set(silent.map(({ place }) => place.controller))
  return rig.controllers.flatMap((controller) =>
    owners.has(controller.id)
      ? firstNumbers(
          rig,
          controller,
          SENDING_TO_LEARN,
          silent.filter(({ place }) => place.controller === controller.id),
        ).edits
      : [],
  )
}

function joinSending(
  rig: Rig,
  places: readonly Place[],
  destinationId: Id,
  targets: ReadonlyArray<JoinTarget | null>,
  scope: Id | null,
): JoinedInOrder {
  const destination = rigIndex(rig).destinations.get(destinationId)
  const edits: RigEdit[] = []
  const ids = new Set<Id>()
  let [joined, pinned] = [0, 0]
  const count = destination ? Math.min(places.length, targets.length) : 0
  for (let index = 0; index < count; index++) {
    const [place, target] = [places[index], targets[index]]
    if (!destination || !place || !target) continue
    const parameter = parameterAt(destination, target)
    const message = taken(rig, place, destination, target, parameter)
    const programmed = programmedAt(rig, place)
    const home = rigIndex(rig).controllers.get(place.controller)?.homeChannel ?? 1
    const isOther = message !== null && !isSameSent(message, programmed?.assignment.messages[0], home)
    if (isOther && programmed?.assignment.pinned) {
      pinned++
      continue
    }
    if (message && isOther) edits.push({ type: 'message', at: place, index: 0, message })
    const isThere =
      parameter !== null &&
      mappingsOf(rig, placeRef(place)).some(
        (mapping) =>
          mapping.destination === destinationId &&
          mapping.parameter === parameter.id &&
          mapping.scope === scope,
      )
    if (parameter && !isThere) {
      const id = freeMappingId(rig, ids)
      ids.add(id)
      edits.push({
        type: 'mapping-add',
        mapping: freshMapping(rig, id, place, destinationId, parameter.id, scope),
      })
    }
    if (isOther || (parameter && !isThere)) joined++
  }
  return {
    edits,
    joined,
    controlsLeft: places.length - count,
    targetsLeft: targets.slice(count).filter((target) => target !== null).length,
    pinned,
  }
}

/** Sounds as targets: one after the other, or with a gap wherever the destination has no sound. */
export function soundTargets({ noteNames }: Destination, gaps: 'closed' | 'kept'): Array<JoinTarget | null> {
  const notes = noteNames.map(({ number }) => number).sort((a, b) => a - b)
  if (gaps === 'closed') return notes.map((number) => ({ kind: 'note', number }))
  const [first = 0, last = -1] = [notes[0], notes.at(-1)]
  return Array.from({ length: last - first + 1 }, (_, index) => {
    const number = first + index
    return notes.includes(number) ? { kind: 'note' as const, number } : null
  })
}
