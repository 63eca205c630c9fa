import { newErrors, recheckWith, RULES, type Apply, type Check, type Finding } from '../conflicts'
import { onceTaught } from '../mappings'
import { placeKey } from '../rig'
import type { Move } from './changes'

/** So many changes are tried one by one to see which of them brings an error. */
const MOST_TRIED = 64

/** Rules that say that there is no room for somebody. */
const ROOM_RULES = new Set(RULES.filter(({ reach }) => reach === 'room').map(({ id }) => id))

/** A change that brings an error; `isForGood` where it would bring it at every address. */
export interface Fault {
  move: Move
  isForGood: boolean
}

const ANYWHERE_RULES = new Set(RULES.filter(({ isAnywhere }) => isAnywhere === true).map(({ id }) => id))

/**
 * The changes that bring errors that were not there before. That is who has part in them; where nobody has, as where
 * the last free number is taken from one who wants it, those without whom the error would not be there.
 *
 * @param left The places (`placeKey`) of what the plan leaves. That it finds no room is in the plan’s score, and no fault.
 */
export function faultsOf(
  before: Check,
  after: Check,
  moves: readonly Move[],
  left: ReadonlySet<string>,
  apply: Apply,
): readonly Fault[] {
  const isFault = ({ rule, at }: Finding): boolean =>
    !ROOM_RULES.has(rule) || at.some((place) => !left.has(placeKey(place)))
  const faultsIn = (check: Check): Finding[] => newErrors(before, check).filter(isFault)
  const errors = faultsIn(after)
  if (errors.length === 0) return []
  const places = new Set(errors.flatMap(({ at }) => at.map(placeKey)))
  const partners = moves.filter(({ change }) => places.has(placeKey(change.at)))
  if (partners.length > 0) {
    const anywhere = errors.filter(({ rule }) => ANYWHERE_RULES.has(rule))
    const anywhereAt = new Set(anywhere.flatMap(({ at }) => at.map(placeKey)))
    return partners.map((move) => ({ move, isForGood: anywhereAt.has(placeKey(move.change.at)) }))
  }
  const here = (found: readonly Move[]): Fault[] => found.map((move) => ({ move, isForGood: false }))
  const { rig } = before.context
  const faultsWith = (some: readonly Move[]): number => {
    const moved = apply(
      rig,
      some.map(({ change }) => change.edit),
    )
    return faultsIn(recheckWith(before, onceTaught(rig, moved).rig, apply)).length
  }
  const helps =
    moves.length > MOST_TRIED
      ? []
      : moves.filter((move) => faultsWith(moves.filter((each) => each !== move)) < errors.length)
  if (helps.length > 0) return here(helps)
  // No one change helps alone: of all in order, the first with which there is a fault.
  let [fewest, most] = [0, moves.length]
  while (fewest + 1 < most) {
    const middle = (fewest + most) >> 1
    if (faultsWith(moves.slice(0, middle)) > 0) most = middle
    else fewest = middle
  }
  return here(moves.slice(fewest, most))
}
