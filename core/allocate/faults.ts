import { newErrors, recheckWith, RULES, type Apply, type Check, type Finding } from '../conflicts'
import { onceTaught } from '../mappings'
import { sameAddress } from '../midi'
import { placeKey, placeRef, type Id } from '../rig'
import type { Move } from './changes'

/** So many changes are tried one by one to see which of them brings an error. */
const MOST_TRIED = 64

/** Rules that say that there is no room for somebody. */
const ROOM_RULES = new Set(RULES.filter(({ reach }) => reach === 'room').map(({ id }) => id))

/** From what a change is barred that brings an error, each with all before it: an address, its channel, everything. */
export const EXTENTS = ['address', 'channel', 'everywhere'] as const
export type Extent = (typeof EXTENTS)[number]

/** A change that brings an error, and where else it would bring it. */
export interface Fault {
  move: Move
  extent: Extent
}

/** Rules about cables: what they find has nothing to do with numbers, and shows as soon as there is one. */
const CABLE_RULES = new Set(RULES.filter(({ topic }) => topic === 'cables').map(({ id }) => id))

const EXTENT_OF: ReadonlyMap<string, Extent> = new Map(
  RULES.map(({ id, extent }) => [id, extent ?? 'address']),
)

/** The widest extent of errors. */
const extentOf = (errors: readonly Finding[]): Extent =>
  EXTENTS.findLast((extent) => errors.some(({ rule }) => EXTENT_OF.get(rule) === extent)) ?? 'address'

/**
 * Who has moved away from what is taught elsewhere now, where an error comes of that. Where it goes matters only if it is taught
 * there: else it is another layer of the same control that is heard then, wherever this one goes.
 *
 * @param taught The mappings that are taught again.
 */
function ofTeaching(
  errors: readonly Finding[],
  { context: { rig } }: Check,
  taught: readonly Id[],
  moves: readonly Move[],
): Fault[] {
  const ids = new Set(taught)
  const concerned = rig.mappings.filter(
    ({ id, destination, gesture, learnedAt }) =>
      ids.has(id) &&
      errors.some(
        ({ destinations, at, addresses }) =>
          destinations.includes(destination) &&
          (at.some((place) => placeRef(place) === gesture) ||
            addresses.some((address) => learnedAt !== null && sameAddress(address, learnedAt))),
      ),
  )
  return moves.flatMap((move): Fault[] => {
    const own = concerned.filter(({ gesture }) => gesture === placeRef(move.change.at))
    if (own.length === 0) return []
    const isTaughtHere = own.every(({ learnedAt }) => learnedAt && sameAddress(learnedAt, move.change.to))
    return [{ move, extent: isTaughtHere ? 'address' : 'everywhere' }]
  })
}

/**
 * The changes that bring errors that were not there before. That is who has part in them; where nobody has, who has moved away
 * from what is taught elsewhere then; else, as where the last free number is taken from one who wants it, those without whom
 * the error would not be there.
 *
 * @param after The rig with the changes, once what they make unheard (`taught`) has been taught again.
 * @param left The places (`placeKey`) of what the plan leaves. That it finds no room is in the plan’s score, and no fault.
 */
export function faultsOf(
  before: Check,
  after: Check,
  taught: readonly Id[],
  moves: readonly Move[],
  left: ReadonlySet<string>,
  apply: Apply,
): readonly Fault[] {
  const wanted = new Set(
    moves.filter(({ change }) => change.from === null).map(({ change }) => placeKey(change.at)),
  )
  /** Is it of cables, and new only in that somebody sends who wanted a number? */
  const showsNow = ({ rule, at }: Finding): boolean => {
    if (!CABLE_RULES.has(rule)) return false
    const old = new Set(
      before.findings.filter((each) => each.rule === rule).flatMap((each) => each.at.map(placeKey)),
    )
    const added = at.map(placeKey).filter((place) => !old.has(place))
    return added.length > 0 && added.every((place) => wanted.has(place))
  }
  const isFault = (error: Finding): boolean =>
    ROOM_RULES.has(error.rule) ? error.at.some((place) => !left.has(placeKey(place))) : !showsNow(error)
  const faultsIn = (check: Check): Finding[] => newErrors(before, check).filter(isFault)
  const errors = faultsIn(after)
  if (errors.length === 0) return []
  const places = new Set(errors.flatMap(({ at }) => at.map(placeKey)))
  const partners = moves.filter(({ change }) => places.has(placeKey(change.at)))
  if (partners.length > 0) {
    return partners.map((move) => {
      const own = placeKey(move.change.at)
      return {
        move,
        extent: extentOf(errors.filter(({ at }) => at.some((place) => placeKey(place) === own))),
      }
    })
  }
  const here = (found: readonly Move[]): Fault[] => found.map((move) => ({ move, extent: 'address' }))
  const leaving = ofTeaching(errors, after, taught, moves)
  if (leaving.length > 0) return leaving
  const { rig } = before.context
  const ids = new Set(errors.map(({ id }) => id))
  const faultsWith = (some: readonly Move[]): number => {
    const moved = apply(
      rig,
      some.map(({ change }) => change.edit),
    )
    // Some of the changes alone may bring errors of their own.
    return faultsIn(recheckWith(before, onceTaught(rig, moved).rig, apply)).filter(({ id }) => ids.has(id))
      .length
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
