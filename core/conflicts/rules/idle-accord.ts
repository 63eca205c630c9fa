import { meetingKind } from '../meetings'
import type { Hit } from '../../addresses'
import type { Accord, GestureRef } from '../../rig'
import type { CheckContext } from '../context'
import type { Rule } from '../rule'
import { placesOf } from '../words'

/** The pairs of gestures that meet somewhere, whether excused or not. */
function meetingPairs({ occupancy, live }: CheckContext, wanted: ReadonlySet<GestureRef>): Set<string> {
  const pairs = new Set<string>()
  const meets = (a: Hit, b: Hit): boolean =>
    a.sender.gesture !== b.sender.gesture && meetingKind(a, b) !== null && live(a.sender, b.sender)
  for (const cells of occupancy.cells.values()) {
    for (const hits of cells.values()) {
      const mine = hits.filter(({ sender }) => wanted.has(sender.gesture))
      mine.forEach((a, index) =>
        mine.slice(index + 1).forEach((b) => {
          if (meets(a, b)) pairs.add([a.sender.gesture, b.sender.gesture].sort().join(' '))
        }),
      )
    }
  }
  return pairs
}

const excuses = ({ gestures }: Accord, pairs: ReadonlySet<string>): boolean =>
  gestures.some((a, index) => gestures.slice(index + 1).some((b) => pairs.has([a, b].sort().join(' '))))

/** An accord that excuses nothing any more. */
export const idleAccord: Rule = {
  id: 'idle-accord',
  title: 'Sharing that no longer happens',
  reach: 'accord',
  find: (context) => {
    const { accords } = context.rig
    if (accords.length === 0) return []
    const pairs = meetingPairs(context, new Set(accords.flatMap(({ gestures }) => gestures)))
    return accords
      .filter((accord) => !excuses(accord, pairs))
      .map((accord) => ({
        severity: 'advice' as const,
        message: `“${accord.name}” is declared as shared on purpose, but its controls no longer meet anywhere.`,
        senders: [],
        addresses: [],
        destinations: [],
        about: accord.id,
        places: placesOf(context.rig, accord.gestures),
        cures: { moves: [], share: false, withdraw: [accord.id] },
      }))
  },
}
