import { deliveryOf } from '../../addresses'
import { keyAlone } from '../../midi'
import {
  parameterName,
  parameterOf,
  rigIndex,
  splitGestureRef,
  type GestureRef,
  type Id,
  type Rig,
} from '../../rig'
import { delivered } from './delivered'
import { spoken } from './spoken'
import { taken } from './taken'
import { targetsOf, type Target } from './targets'
import { pass, lose, tagsOf, type Trace, type TraceFrom, type Walk } from './walk'

function traceTo(
  rig: Rig,
  from: TraceFrom,
  ref: GestureRef,
  { destination, parameter, mapping }: Target,
): Trace {
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const start = (): Walk => ({ rig, stations: [], broken: null })
  const done = ({ stations, broken }: Walk): Trace => ({
    gesture: ref,
    destination: destination.id,
    parameter: parameter.id,
    mapping: mapping?.id ?? null,
    stations,
    broken,
  })
  const first = start()
  const messages = spoken(first, from, ref)
  if (!messages || !controller) return done(first)
  // Of several messages the one that gets furthest tells the tale.
  let best: Walk | null = null
  for (const message of messages) {
    const walk: Walk = { ...start(), stations: [...first.stations] }
    const key = mapping?.key ?? null
    const one = key === null ? message : keyAlone(message, key)
    if (!one) {
      pass(walk, 'message', tagsOf(message), 'has no such key')
      lose(walk, 'The keyboard has no such key.', 'Choose a key that is there.')
    } else {
      pass(walk, 'message', tagsOf(one), `out of ${controller.name}`)
      const arrivals = delivered(walk, controller, one, destination)
      if (arrivals) taken(walk, ref, from, arrivals, destination, parameter, mapping)
    }
    if (best === null || (best.broken && (!walk.broken || walk.stations.length > best.stations.length)))
      best = walk
  }
  return done(best ?? first)
}

/**
 * Follow what a gesture sends, from the hand to every parameter that it is joined to or moves: each station with what it makes
 * of the message, and where it is lost, why and what to do. A gesture that leads nowhere gives one trace that says so.
 */
export function traceGesture(rig: Rig, ref: GestureRef, from: TraceFrom = {}): Trace[] {
  const targets = targetsOf(rig, from, ref)
  if (targets.length > 0) return targets.map((target) => traceTo(rig, from, ref, target))
  const walk: Walk = { rig, stations: [], broken: null }
  const messages = spoken(walk, from, ref)
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const [message] = messages ?? []
  if (message && controller) {
    pass(walk, 'message', tagsOf(message), `out of ${controller.name}`)
    const there = deliveryOf(rig).arrivals(controller.id, message)
    const names = [
      ...new Set(there.map(({ bus }) => rigIndex(rig).destinations.get(bus.destination)?.name ?? '')),
    ]
    if (names.length === 0)
      lose(walk, `No cable leads from ${controller.name} to anything that listens.`, 'Draw a cable in Rig.')
    else {
      pass(walk, 'destination', names.join(', '), 'nothing listens there')
      lose(walk, 'It arrives, and no parameter listens at it.', 'Join it to a parameter on the Desk.')
    }
  }
  const { stations, broken } = walk
  return [{ gesture: ref, destination: null, parameter: null, mapping: null, stations, broken }]
}

/**
 * Why a parameter moves or does not, backwards: the trace of every control that is joined to it. One that nobody is joined to
 * gives one trace that says so.
 */
export function traceParameter(rig: Rig, destinationId: Id, parameterId: Id, from: TraceFrom = {}): Trace[] {
  const destination = rigIndex(rig).destinations.get(destinationId)
  const parameter = destination && parameterOf(destination, parameterId)
  if (!destination || !parameter) return []
  const mappings = rig.mappings.filter(
    (mapping) => mapping.destination === destinationId && mapping.parameter === parameterId,
  )
  const traces = mappings.flatMap((mapping) =>
    mapping.gesture === null
      ? []
      : [traceTo(rig, from, mapping.gesture, { destination, parameter, mapping })],
  )
  if (traces.length > 0) return traces
  const isOld = mappings.length > 0
  return [
    {
      gesture: null,
      destination: destinationId,
      parameter: parameterId,
      mapping: null,
      stations: [{ kind: 'parameter', title: parameterName(parameter), detail: destination.name }],
      broken: {
        why: isOld ? 'The control that was joined to it is gone.' : 'No control is joined to it.',
        cure: 'Join a control to it on the Desk.',
      },
    },
  ]
}

export type { Station, Trace, TraceFrom } from './walk'
