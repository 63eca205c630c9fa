import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import { CHANNEL_STRIDE, type Spot, type Spots } from './candidates'
import type { Hearing, Hearings } from './hearing'
import { isRepair, type AllocateRequest } from './request'
import type { Resources } from './resources'
import { stretchesInOrder, stretchOf, type Row, type Stretch } from './shapes'
import { memoOf } from '../rig'
import { forOwnTerms, noCosts, NOWHERE, type OwnTerm } from './solver/problem'
import type { Still } from './stills'
import type { Ties } from './ties'
import type { Takes } from './takes'

/** A candidate of a sender: somewhere to go, or a way to leave it as it is. */
export interface Place extends Row {
  still: Still | null
}

/** The only candidate of what cannot move, or one of a mapping. */
export const stillAt = (address: number, takes: readonly number[] = []): Row => ({
  address,
  takes: Int32Array.from(takes),
  costs: noCosts(),
  isStill: true,
  isFieldless: false,
})

/** What the candidates of senders are made of. */
interface Parts {
  request: AllocateRequest
  resources: Resources
  hearings: Hearings
  /** What a sender takes, with all that go with it, where it is; and how many they are. */
  takesNow: (sender: Sender) => Takes
  countOf: (sender: Sender) => number
  /** What a sender takes that leaves a mapping which others serve too. */
  servedBy: (hearing: Hearing, sender: Sender) => number
  /** All places where nothing hears it that it is joined to, or one on each channel: they cost nearly the same. */
  far: 'all' | 'one'
  /** Does everyone take the same of a place? Not where some are held apart. */
  isAlikeForAll: boolean
}

/** The candidates of a sender, channel by channel; where they are the same for many they are put together once. */
export function stretchFinder({
  request,
  resources,
  hearings,
  takesNow,
  countOf,
  servedBy,
  far: wanted,
  isAlikeForAll,
}: Parts): (
  sender: Sender,
  on: ReadonlyArray<Spots & { channel: Channel }>,
  stills: readonly Still[],
  ties: Ties,
) => ReadonlyArray<Stretch<Place>> {
  /** Does everyone who can go to a spot take the same there? */
  const isTakenAlike = ({ takes: { wide, carried } }: Spot): boolean =>
    isAlikeForAll && wide.length === 0 && carried.length === 0
  const areTakenAlike = memoOf((spots: readonly Spot[]) => spots.every(isTakenAlike))
  const takenBy = spotTaker(resources, isTakenAlike)
  const shared = new Map<string, WeakMap<readonly Spot[], Stretch<Place>>>()
  const changeTerm: OwnTerm = isRepair(request) ? 'changed' : 'moved'
  const leavingCosts = request.policy.kind === 'keep-if-room' ? 1 : 0

  return (sender, on, stills, ties) => {
    const own = hearings.of(sender)
    const tokensOf = (unheard: readonly Hearing[]): number[] =>
      unheard.filter(({ leaders }) => leaders.length > 1).map((hearing) => servedBy(hearing, sender))
    /** What it takes where these do not hear it, and the others do. */
    const beside = (unheard: readonly Hearing[]): number[] => [
      ...tokensOf(unheard),
      ...own
        .filter((hearing) => !unheard.includes(hearing))
        .flatMap((hearing) => ties.ofHeard(sender, hearing)),
    ]
    const changes = isWanting(sender) ? 0 : countOf(sender)
    const goingTo = (unheard: readonly Hearing[], tokens: readonly number[]): ((spot: Spot) => Place) => {
      const { stale, warnings } = costsUnheard(unheard)
      return (spot) => {
        const costs = noCosts()
        costs.stale = stale
        costs.warnings = warnings + (spot.channel === sender.channel ? 0 : leavingCosts)
        costs[changeTerm] = changes
        costs.outside = spot.isOutside ? 1 : 0
        costs.rank = spot.rank
        return {
          address: spot.address,
          takes: takenBy(sender, spot, tokens),
          still: null,
          isStill: false,
          isFieldless: false,
          costs,
        }
      }
    }
    const unheardNow = own.filter(({ hearsNow }) => !hearsNow(sender))
    const now = isWanting(sender) ? NOTHING : takesNow(sender)
    const standing = stills.map((still): Place => ({
      address: still.address,
      takes: Int32Array.from([
        ...resources.kept(sender, now),
        ...ties.ofStill(sender, still),
        ...beside(unheardNow),
      ]),
      still,
      isStill: true,
      isFieldless: still.isUnmet,
      costs: withWarnings(still.costs, costsUnheard(unheardNow).warnings),
    }))

    const lost = costsUnheard(own)
    const isAtHome = (channel: Channel): boolean => channel === sender.channel
    const tokens = tokensOf(own)
    const farStretch = (channel: Channel, far: readonly Spot[]): Stretch<Place> => {
      const likeness = [isAtHome(channel), lost.stale, lost.warnings, changes].join()
      const alike = shared.get(likeness) ?? new WeakMap<readonly Spot[], Stretch<Place>>()
      shared.set(likeness, alike)
      const stretch = alike.get(far) ?? stretchOf(far.map(goingTo(own, [])))
      alike.set(far, stretch)
      return stretch
    }
    const stretches = on.map(({ channel, far, near }): Stretch<Place> => {
      const here = standing.filter(({ address }) => channelOf(address) === channel)
      const isAlike = near.length + here.length === 0 && areTakenAlike(far)
      if (isAlike && wanted === 'all') return takingAlso(farStretch(channel, far), tokens)
      return stretchOf([
        ...(wanted === 'all' ? far : far.slice(0, 1)).map(goingTo(own, tokens)),
        ...near.map((spot) => goingTo(spot.unheard, beside(spot.unheard))(spot)),
        ...here,
      ])
    })
    const elsewhere = standing.filter(({ address }) =>
      on.every(({ channel }) => channelOf(address) !== channel),
    )
    return stretchesInOrder([...stretches, stretchOf(elsewhere)])
  }
}

const withWarnings = (own: Still['costs'], warnings: number): Still['costs'] =>
  forOwnTerms((term) => (term === 'warnings' ? warnings : own[term]))

const channelOf = (address: number): number | null =>
  address === NOWHERE ? null : Math.floor(address / CHANNEL_STRIDE)

/** What mappings cost that hear nothing; such as several serve have items of their own. */
function costsUnheard(unheard: readonly Hearing[]): Record<'stale' | 'warnings', number> {
  const alone = unheard.filter(({ leaders }) => leaders.length === 1)
  return { stale: alone.filter(({ isHeard }) => isHeard).length, warnings: alone.length }
}

const NOTHING: Takes = { own: [], wide: [], carried: [] }

/** What senders take at spots. Where it is the same for all who can go to a spot, it is put together once. */
function spotTaker(
  resources: Resources,
  isTakenAlike: (spot: Spot) => boolean,
): (sender: Sender, spot: Spot, tokens: readonly number[]) => Int32Array {
  const known = new WeakMap<Spot, Int32Array>()
  return (sender, spot, tokens) => {
    if (!isTakenAlike(spot)) return Int32Array.from([...resources.taken(sender, spot.takes), ...tokens])
    const takes = known.get(spot) ?? Int32Array.from(resources.taken(sender, spot.takes))
    known.set(spot, takes)
    return withTokens(takes, tokens)
  }
}

function withTokens(takes: Int32Array, tokens: readonly number[]): Int32Array {
  if (tokens.length === 0) return takes
  const all = new Int32Array(takes.length + tokens.length)
  all.set(takes)
  all.set(tokens, takes.length)
  return all
}

/** A stretch of which every candidate takes some more. */
const takingAlso = (stretch: Stretch<Place>, tokens: readonly number[]): Stretch<Place> =>
  tokens.length === 0
    ? stretch
    : { ...stretch, takes: stretch.takes.map((takes) => withTokens(takes, tokens)) }
