import { isWanting } from '../addresses'
import { findingPlace, messageAt, type CheckContext } from '../conflicts'
import { sentAddress } from '../rig'
import type { BuiltProblem } from './build-problem'
import { barSpots } from './candidates'
import { followersIn } from './followers'
import type { PlannedChange } from './plan'
import type { Choice } from './solver/problem'

/** A change, and by what it can be barred: from its address, from all of the channel, from everywhere. */
export interface Move {
  change: PlannedChange
  spots: readonly [address: string, channel: string, all: string]
}

/** The addresses that a choice changes, each with its reason and the edit that makes it. */
export function changesOf(
  context: CheckContext,
  built: BuiltProblem,
  choice: Choice,
  reasonFor: (item: number) => string,
): Move[] {
  return built.senders.flatMap((sender, item): Move[] => {
    const to = built.free.has(sender) ? built.goesTo(item, choice[item] ?? 0) : null
    if (to === null) return []
    return [sender, ...followersIn(context).of(sender)].flatMap((each): Move[] => {
      const message = messageAt(context.rig, each, to.channel, to.number)
      const address = message && sentAddress(message, each.home)
      if (!message || !address) return []
      return [
        {
          spots: barSpots(sender, to.channel, to.number),
          change: {
            key: each.key,
            at: findingPlace(each),
            from: isWanting(each) ? null : each.address,
            to: address,
            channel: to.channel,
            reason: each === sender ? reasonFor(item) : 'It goes where the note of its control goes.',
            edit: { type: 'message', at: each.place, index: each.messageIndex, message },
          },
        },
      ]
    })
  })
}
