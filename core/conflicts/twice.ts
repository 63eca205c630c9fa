import {
  isHeard,
  landedAt,
  waysTo,
  type Bus,
  type Cell,
  type Delivery,
  type FlowState,
  type Way,
} from '../addresses'
import { isChannelMessage, printTarget, type Address, type SentMessage } from '../midi'
import { memoOf, rigIndex, type Controller, type Destination, type Id, type Rig } from '../rig'

/** Does it do harm to have a message twice? Programs, modes and transport commands may come again. */
export const isRepeatable = (cells: readonly Cell[]): boolean =>
  cells.every(({ role }) => role === 'repeatable' || role === 'carrier')

/** Does an instrument's own keyboard sound it directly? */
export const isLocal = ({ unit }: Destination, controller: Id): boolean =>
  unit?.controller === controller && unit.localControl

/** What stands for any message where no rule looks at it. */
const ANYTHING: SentMessage = { kind: 'realtime', moment: 'move', command: 'reset' }

const forks = memoOf((_: Delivery) => new Map<string, boolean>())

/** Do the cables of a controller on whose cables no rule looks at anything lead to a bus in more than one way? */
export function mayFork(delivery: Delivery, bus: Bus, controller: Id): boolean {
  const known = forks(delivery)
  const key = `${controller} ${bus.id}`
  const before = known.get(key)
  if (before !== undefined) return before
  const found = delivery
    .flows(controller, ANYTHING)
    .some(
      ({ starts }) =>
        waysTo(starts, ({ port }) => delivery.busesAt(port).includes(bus), bus.destination).length > 1,
    )
  known.set(key, found)
  return found
}

const keyOf = (address: Address, bus: Bus): string =>
  address.scope === 'channel' && !bus.mergesChannels
    ? `${address.channel} ${printTarget(address.target)}`
    : printTarget(address.target)

/** The ways on which a message of a controller comes to a bus as one and the same address. Its channel is a number. */
export function waysOf(delivery: Delivery, bus: Bus, controller: Id, message: SentMessage): Way[] {
  const isAt = ({ port }: FlowState): boolean => delivery.busesAt(port).includes(bus)
  for (const { starts, states } of delivery.flows(controller, message)) {
    const byAddress = new Map<string, Set<FlowState>>()
    for (const state of states.filter(isAt))
      for (const landed of landedAt(state.message)) {
        if (landed.scope === 'channel' && !isHeard(bus, landed)) continue
        const key = keyOf(landed, bus)
        byAddress.set(key, (byAddress.get(key) ?? new Set()).add(state))
      }
    let found: Way[] = []
    for (const ends of byAddress.values()) {
      const ways = waysTo(starts, (state) => ends.has(state), bus.destination)
      if (ways.length > found.length) found = ways
    }
    if (found.length > 0) return found
  }
  return []
}

const counts = memoOf((_: Delivery) => new Map<string, number>())

/** How many ways a message takes that is heard at a bus. */
function wayCount(delivery: Delivery, bus: Bus, controller: Id, message: SentMessage): number {
  const isOneOfMany =
    isChannelMessage(message) &&
    (!('keys' in message) || message.keys.kind === 'one') &&
    !delivery.looksAtNumbers(controller)
  if (!isOneOfMany) return waysOf(delivery, bus, controller, message).length
  const known = counts(delivery)
  const key = `${controller} ${bus.id} ${message.kind} ${message.channel}`
  const count = known.get(key) ?? waysOf(delivery, bus, controller, message).length
  known.set(key, count)
  return count
}

/**
 * The buses, of those where it arrives, to which a message of a controller comes twice, where that does harm.
 *
 * @param message Its channel is a number.
 * @param cells What it occupies.
 */
export function arrivesTwice(
  rig: Rig,
  delivery: Delivery,
  controller: Controller,
  message: SentMessage,
  at: ReadonlyArray<{ bus: Bus; cells: readonly Cell[] }>,
): Id[] {
  const { destinations } = rigIndex(rig)
  return at.flatMap(({ bus, cells }) => {
    const destination = destinations.get(bus.destination)
    if (!destination || destination.inside !== null || isRepeatable(cells)) return []
    const localWays = isLocal(destination, controller.id) ? 1 : 0
    const isOpen = delivery.open.has(controller.id)
    if (localWays === 0 && isOpen && !mayFork(delivery, bus, controller.id)) return []
    return wayCount(delivery, bus, controller.id, message) + localWays < 2 ? [] : [bus.id]
  })
}
