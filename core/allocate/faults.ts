import { newErrors, recheckWith, type Apply, type Check } from '../conflicts'
import { onceTaught } from '../mappings'
import { placeKey } from '../rig'
import type { Move } from './changes'

/** So many changes are tried one by one to see which of them brings an error; of more, all are taken for it. */
const MOST_TRIED = 64

/**
 * The changes that bring errors that were not there before. That is who has part in them; where nobody has, as where
 * the last free number is taken from one who wants it, those without whom the error would not be there.
 */
export function faultsOf(before: Check, after: Check, moves: readonly Move[], apply: Apply): readonly Move[] {
  const errors = newErrors(before, after)
  if (errors.length === 0) return []
  const places = new Set(errors.flatMap(({ at }) => at.map(placeKey)))
  const partners = moves.filter(({ change }) => places.has(placeKey(change.at)))
  if (partners.length > 0 || moves.length > MOST_TRIED) return partners.length > 0 ? partners : moves
  const { rig } = before.context
  const helps = moves.filter((move) => {
    const without = apply(
      rig,
      moves.filter((each) => each !== move).map(({ change }) => change.edit),
    )
    const then = recheckWith(before, onceTaught(rig, without).rig, apply)
    return newErrors(before, then).length < errors.length
  })
  return helps.length > 0 ? helps : moves
}
