import { deliveryOf } from '../addresses'
import { bytesOf, isChannelMessage, type SentMessage } from '../midi'
import {
  controlsOf,
  memoOf,
  modelOf,
  portKey,
  rigIndex,
  splitGestureKey,
  type Id,
  type PortRef,
  type Rig,
} from '../rig'
import { valueOf } from './amount'
import type { Passing } from './running'

/** Bytes that arrive at a port. */
export interface Outgoing {
  port: PortRef
  bytes: readonly number[]
}

/** A SysEx as a message, from its bytes with F0 and F7. */
export const sysexMessage = (bytes: readonly number[]): SentMessage => ({
  kind: 'sysex',
  moment: 'move',
  bytes: bytes.slice(1, -1),
  range: { low: 0, high: 127 },
})

/** The ins of controllers, by port. */
const controllerIns = memoOf(
  (rig: Rig): ReadonlySet<string> =>
    new Set(
      rig.controllers.flatMap(({ id: owner, inUse, ports }) =>
        inUse
          ? ports.flatMap(({ id: port, direction }) => (direction === 'in' ? [portKey({ owner, port })] : []))
          : [],
      ),
    ),
)

/** The controllers whose cables may lead to other controllers, whatever rules stop. */
const leadersIn = memoOf((rig: Rig): ReadonlySet<Id> => {
  const ins = controllerIns(rig)
  const ends = new Set(rig.cables.filter(({ to }) => ins.has(portKey(to))).map(({ id }) => id))
  if (ends.size === 0) return new Set()
  return new Set(
    rig.controllers.flatMap(({ id }) =>
      deliveryOf(rig)
        .cablesFrom(id)
        .some((cable) => ends.has(cable.id))
        ? [id]
        : [],
    ),
  )
})

/** May cables lead from a controller to others, whatever rules stop? */
export const leadsIn = (rig: Rig, controller: Id): boolean => leadersIn(rig).has(controller)

/** The device number that a simulated controller has: all. */
const DEVICE = 0x7f
const UNKNOWN = { detentsPerTurn: null }

/**
 * The bytes with which a message arrives at some ports, after every cable and box on the way: at those whose keys are given, or
 * at the ins of controllers.
 */
export function outgoing(
  rig: Rig,
  passing: Omit<Passing, 'arrived'>,
  at: ReadonlySet<string> | 'controllers',
): Outgoing[] {
  const ports = at === 'controllers' ? controllerIns(rig) : at
  const { message: sent, controller: id, amount, key, place } = passing
  if (ports.size === 0 || !sent || (at === 'controllers' && !leadsIn(rig, id))) return []
  const controller = rigIndex(rig).controllers.get(id)
  const control =
    (place &&
      controller &&
      controlsOf(modelOf(rig, controller)).get(splitGestureKey(place.gesture).control)) ??
    UNKNOWN
  return deliveryOf(rig)
    .flows(id, sent)
    .flatMap(({ states, message: left }) =>
      states.flatMap(({ port, message }): Outgoing[] => {
        if (!ports.has(portKey(port))) return []
        if (message === left) return [{ port, bytes: passing.bytes }]
        const channel = isChannelMessage(message) && typeof message.channel === 'number' ? message.channel : 1
        const value = valueOf(message, amount, control)
        const bytes = bytesOf(message, { channel, value, previous: null, key, device: DEVICE })
        return bytes.length > 0 ? [{ port, bytes }] : []
      }),
    )
}
