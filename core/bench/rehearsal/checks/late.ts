import { rigIndex } from '../../../rig'
import type { Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

/** What is later than this is felt, in ms. */
export const MOST_LATE_MS = 10

/** Was anything late on a crowded cable? */
export const late: Check = {
  id: 'late',
  find: ({ rig, spot, joined, passed }: Run): Told[] => {
    const worst = new Map<string, number>()
    for (const { at: sent, arrived } of passed)
      for (const { destination, at } of arrived)
        worst.set(destination, Math.max(worst.get(destination) ?? 0, at - sent))
    return [...worst].flatMap(([id, ms]): Told[] => {
      const owner = rigIndex(rig).destinations.get(id)
      if (!owner || ms <= MOST_LATE_MS || !joined.some(({ destination }) => destination.id === id)) return []
      return [
        {
          weight: 'fault',
          text: `What ${moverOf(rig, spot)} sends comes up to ${Math.round(ms)} ms late to ${owner.name}: it sends more than its DIN cable carries.`,
          cure: 'Let it send fewer bytes: seven bits, no second half, or no parameter number each time.',
          place: spot.place,
          mapping: null,
          concerns: 'all' as const,
          parameter: null,
        },
      ]
    })
  },
}
