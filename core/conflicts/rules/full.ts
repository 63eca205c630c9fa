import type { Sender } from '../../addresses'
import { MESSAGE_KIND_NAME, modelOf, rigIndex, splitGestureKey, type Rig } from '../../rig'
import { freeAddresses } from '../free'
import type { Rule } from '../rule'
import { destinationWords, senderWords, verb } from '../words'

/** The block of a sender's control: house rules may hold for it alone. */
function blockOf(rig: Rig, { place }: Sender): string {
  const controller = rigIndex(rig).controllers.get(place.controller)
  if (!controller || !rig.houseRules.some(({ block }) => block !== null)) return ''
  const { control } = splitGestureKey(place.gesture)
  return modelOf(rig, controller).surface.controls.find(({ id }) => id === control)?.block ?? ''
}

/** More gestures want a number on a channel than that channel has left, wherever they arrive. */
export const full: Rule = {
  id: 'full',
  title: 'No room left',
  topic: 'meeting',
  reach: 'room',
  find: ({ rig, occupancy }) => {
    const { wanting } = occupancy.index
    if (wanting.length === 0) return []
    const free = freeAddresses(rig, occupancy)
    const groups = new Map<string, { senders: Sender[]; numbers: Set<number>; reached: Set<string> }>()
    const known = new Map<string, ReturnType<typeof free.onChannel>>()
    for (const sender of wanting) {
      const { controller } = sender.place
      const own = `${controller} ${sender.channel} ${sender.message.kind} ${blockOf(rig, sender)}`
      const room = known.get(own) ?? free.onChannel(sender, wanting.length)
      known.set(own, room)
      const key = `${sender.channel} ${sender.message.kind} ${room.buses.join(' ')}`
      const group = groups.get(key) ?? { senders: [], numbers: new Set(), reached: new Set() }
      groups.set(key, group)
      group.senders.push(sender)
      for (const number of room.numbers) group.numbers.add(number)
      for (const bus of room.buses) group.reached.add(bus)
    }
    const destinationOf = new Map(occupancy.buses.map(({ id, destination }) => [id, destination]))
    return [...groups].flatMap(([key, { senders, numbers, reached }]) => {
      const [first] = senders
      if (!first || reached.size === 0 || senders.length <= numbers.size) return []
      const destinations = [...new Set([...reached].flatMap((id) => destinationOf.get(id) ?? []))]
      const owners = new Set(senders.map(({ place }) => rigIndex(rig).controllers.get(place.controller)))
      return [
        {
          severity: 'error' as const,
          message: `${senders.length === 1 ? '1 message' : `${senders.length} messages`} of ${owners.size === 1 ? senderWords(rig, senders) : `${owners.size} controllers`} ${verb(senders.length, 'wants', 'want')} a ${MESSAGE_KIND_NAME[first.message.kind]} number on channel ${first.channel}, and ${numbers.size === 0 ? 'none is' : `${numbers.size} ${verb(numbers.size, 'is', 'are')}`} left there at ${destinationWords(rig, destinations)}: let some send on another channel.`,
          senders,
          addresses: [],
          destinations,
          about: key,
        },
      ]
    })
  },
}
