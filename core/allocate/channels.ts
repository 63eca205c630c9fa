import { CHANNELS, type Channel } from '../midi'
import type { Sender } from '../addresses'
import { mappingsOf, rigIndex, type Rig } from '../rig'
import type { ChannelPolicy } from './request'

/** What shares a channel under a policy that gives out whole channels; null under the others, and for what is of none. */
export function groupOf(rig: Rig, policy: ChannelPolicy, { place, gesture }: Sender): string | null {
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
      return mappingsOf(rig, gesture)[0]?.destination ?? null
  }
}

/** The channels that each free sender may go to; only those in `wide` leave theirs for want of room. */
export const channelsFor =
  (rig: Rig, policy: ChannelPolicy, wide: ReadonlySet<Sender>) =>
  (sender: Sender): readonly Channel[] => {
    switch (policy.kind) {
      case 'keep':
        return [sender.channel]
      case 'keep-if-room':
        return wide.has(sender) ? CHANNELS : [sender.channel]
      case 'home':
        return [rigIndex(rig).controllers.get(sender.place.controller)?.homeChannel ?? sender.channel]
      case 'among':
        return policy.channels.toSorted((a, b) => a - b)
      case 'each-controller':
      case 'each-layer':
      case 'each-destination':
        // What is joined to nothing is of no destination: it keeps its channel.
        return groupOf(rig, policy, sender) === null ? [sender.channel] : CHANNELS
    }
  }
