import { CHANNELS, type Channel } from '../midi'
import type { Occupancy, Sender } from '../addresses'
import { mappingsOf, rigIndex, type Rig } from '../rig'
import type { ChannelPolicy } from './request'

/** What shares a channel under a policy that gives out whole channels; null under the others. */
function groupOf(rig: Rig, policy: ChannelPolicy, { place, gesture }: Sender): string | null {
  switch (policy.kind) {
    case 'keep':
    case 'keep-if-room':
    case 'home':
    case 'among':
      return null
    case 'each-controller':
      return place.controller
    case 'each-layer':
      return `${place.controller}/${place.template}/${place.layer ?? ''}`
    case 'each-destination':
      return `${place.controller} ${mappingsOf(rig, gesture)[0]?.destination ?? ''}`
  }
}

/** How many cells of the destinations that a controller reaches are taken on each channel by those who stay. */
function fullness(occupancy: Occupancy, controller: string, free: ReadonlySet<Sender>): Map<Channel, number> {
  const taken = new Map(CHANNELS.map((channel) => [channel, 0]))
  const reached = new Set((occupancy.ways.get(controller) ?? []).map(({ bus }) => bus.id))
  for (const [bus, cells] of occupancy.cells) {
    if (!reached.has(bus)) continue
    for (const hits of cells.values()) {
      const staying = hits.find(({ sender }) => !free.has(sender))
      if (staying) taken.set(staying.cell.channel, (taken.get(staying.cell.channel) ?? 0) + 1)
    }
  }
  return taken
}

/**
 * The channels that each free sender may go to; only those in `wide` leave theirs for want of room. Where each controller, layer or destination is to have a
 * channel of its own, that is settled first, in the order of the rig: the emptiest channel that none before
 * it was given, the lowest of equals.
 */
export function channelsFor(
  occupancy: Occupancy,
  policy: ChannelPolicy,
  free: readonly Sender[],
  wide: ReadonlySet<Sender>,
): (sender: Sender) => readonly Channel[] {
  const { rig } = occupancy
  const given = new Map<string, Channel>()
  const freeSet = new Set(free)
  for (const sender of free) {
    const group = groupOf(rig, policy, sender)
    if (group === null || given.has(group)) continue
    const taken = fullness(occupancy, sender.place.controller, freeSet)
    const used = new Set(given.values())
    const open = CHANNELS.filter((channel) => !used.has(channel))
    const [emptiest = 1] = (open.length > 0 ? open : CHANNELS).toSorted(
      (a, b) => (taken.get(a) ?? 0) - (taken.get(b) ?? 0) || a - b,
    )
    given.set(group, emptiest)
  }
  return (sender) => {
    if (policy.kind === 'keep' || (policy.kind === 'keep-if-room' && !wide.has(sender)))
      return [sender.channel]
    if (policy.kind === 'keep-if-room') return CHANNELS
    if (policy.kind === 'among') return policy.channels.toSorted((a, b) => a - b)
    const home = rigIndex(rig).controllers.get(sender.place.controller)?.homeChannel ?? sender.channel
    return [given.get(groupOf(rig, policy, sender) ?? '') ?? home]
  }
}
