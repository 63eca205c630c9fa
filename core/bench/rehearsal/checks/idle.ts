import { landedAt } from '../../../addresses'
import { printTag } from '../../../midi'
import { choicesOf } from '../../choosing'
import { resolveMappings } from '../../../mappings'
import { mappingsOf, placeKey, placeRef, type Place } from '../../../rig'
import type { Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

const isHere =
  (place: Place) =>
  (sender: { place: Place }): boolean =>
    placeKey(sender.place) === placeKey(place)

/**
 * Does the gesture move nothing at all? One that is joined to something in other layers has been forgotten here; one
 * that is joined to nothing is worth knowing.
 */
export const idle: Check = {
  id: 'idle',
  find: (run: Run): Told[] => {
    const { rig, spot, passed } = run
    // What chooses layers has done its work by that.
    if (passed.length === 0 || choicesOf(rig, placeRef(spot.place)).length > 0) return []
    for (const { effect } of run.effects) if (effect.kind !== 'nothing') return []
    const mappings = mappingsOf(rig, placeRef(spot.place))
    // What counts in other scopes only moves nothing in this one, as it is to.
    if (resolveMappings(rig, mappings).some(({ meeting }) => meeting.some(isHere(spot.place)))) return []
    const isJoined = mappings.length > 0
    const tags = new Set(passed.flatMap(({ message }) => (message ? landedAt(message).map(printTag) : [])))
    const [first = 'what it sends'] = tags
    const what = tags.size > 3 ? `${first} and ${tags.size - 1} more` : [...tags].join(', ')
    return [
      {
        weight: isJoined ? 'fault' : 'note',
        text: `${moverOf(rig, spot)} moves nothing: nobody listens at ${what}.`,
        cure: isJoined
          ? 'Teach again what it is joined to, or switch it off in this layer.'
          : 'Join it to a parameter on the Desk, or leave it.',
        place: spot.place,
        mapping: null,
        concerns: 'one' as const,
        parameter: null,
      },
    ]
  },
}
