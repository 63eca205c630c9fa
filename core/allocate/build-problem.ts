import { CHANNELS, type Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { anchorOf, barSpots, CHANNEL_STRIDE, spotFinder, type NearSpot, type Spot } from './candidates'
import { chainsOf } from './chains'
import { channelsFor } from './channels'
import type { Trouble } from './free'
import { groundOf, together, type Takes } from './ground'
import { hearingsOf, withFollowersIn, type Hearing } from './hearing'
import { freedomOf } from './movable'
import { numbersWorthTrying } from './numbers'
import { isRepair, type AllocateRequest } from './request'
import { resourcesFor, type Resources } from './resources'
import { inAddressOrder, shapeMaker, type Row } from './shapes'
import { NOWHERE, type OwnTerm, type Problem, type Shape } from './solver/problem'
import { keepOnly } from './solver/reduce'
import { stillFinder, staysOf, type Stays, type Still } from './stills'

/** Where a candidate takes a sender; `number` is null where only the channel is another. */
export interface GoesTo {
  channel: Channel
  number: number | null
}

/** A problem for the solver, with what its items and candidates stand for. */
export interface BuiltProblem {
  problem: Problem
  /** Who each item is; those that stay stand among them as neighbours. Further items stand for mappings. */
  senders: readonly Sender[]
  /** Of each further item, in order, those of whom one has to stay for its mapping to be heard. */
  servedBy: ReadonlyArray<readonly Sender[]>
  free: ReadonlySet<Sender>
  /** Where a candidate takes a sender, and all that go with it; null for one that leaves it as it is. */
  goesTo: (item: number, candidate: number) => GoesTo | null
  /** Addresses that could be given to a sender if it were alone. */
  roomFor: (item: number) => readonly number[]
  /** Is a sender left in an error, without a number, or where it was not to stay, by a candidate? */
  isLeft: (item: number, candidate: number) => boolean
}

/** A problem without the spots in `barred`; only senders in `wide` may leave their channel for want of room. */
export type BuildProblem = (barred: ReadonlySet<string>, wide: ReadonlySet<Sender>) => BuiltProblem

/** So many problems are kept to be narrowed: that of all on their channels, and those that let some leave theirs. */
const MOST_KEPT = 3

/** What one item stands for. */
interface Item {
  sender: Sender
  /** By candidate; null where it goes somewhere. */
  stills: ReadonlyArray<Still | null>
}

/**
 * The problem of a request: who may go where, what it costs, and what is there only once. Where everyone could go is found
 * once, for any list of errors that are to end.
 */
export function problemBuilder(
  context: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
): (troubles: readonly Trouble[]) => BuildProblem {
  const { rig } = context
  const free = new Set(senders)
  const withFollowers = withFollowersIn(context)
  const ground = groundOf(context, new Set(senders.flatMap(withFollowers)))
  const chainsWithin = chainsOf(context, free)
  const takesNow = (sender: Sender): Takes => together(withFollowers(sender).map(ground.takesNow))
  const hearings = hearingsOf(context, senders, withFollowers)
  const numbers = numbersWorthTrying(rig, context.occupancy.senders, senders, request.rules)
  const findSpots = spotFinder(context, request, ground, hearings, numbers)
  const spotsOf = new Map(senders.map((sender) => [sender, findSpots(sender)]))
  const changeTerm: OwnTerm = isRepair(request) ? 'changed' : 'moved'

  const build = (stays: Stays, wide: ReadonlySet<Sender>): BuiltProblem => {
    const stillsOf = stillFinder(context, request, stays)
    const channels = channelsFor(rig, request.policy, wide)
    const resources = resourcesFor(context, request, senders, { ...ground, takesNow }, stays.groups)
    const takenBy = spotTaker(resources)
    const shapeOf = shapeMaker()
    const farRows = rowsAlike()
    const items: Item[] = []
    const shapes: Shape[] = []
    const put = (rows: readonly Row[]): number => shapes.push(shapeOf(rows)) - 1
    const servedBy = (hearing: Hearing, { key }: Sender): number =>
      resources.token(`${hearing.name} by ${key}`)

    const add = (sender: Sender): number => {
      const spots = channels(sender).flatMap((channel) => spotsOf.get(sender)?.(channel) ?? [])
      const own = hearings.of(sender)
      const tokens = (unheard: readonly Hearing[]): number[] =>
        unheard.filter(({ leaders }) => leaders.length > 1).map((hearing) => servedBy(hearing, sender))
      const changes = isWanting(sender) ? 0 : withFollowers(sender).length
      const leavingCosts = request.policy.kind === 'keep-if-room' ? 1 : 0
      const rowAt = (spot: Spot, unheard: { costs: Lost; tokens: readonly number[] }): Row => ({
        address: spot.address,
        takes: takenBy(sender, spot, unheard.tokens),
        isStill: false,
        isFieldless: false,
        costs: {
          stale: unheard.costs.stale,
          warnings: unheard.costs.warnings + (spot.channel === sender.channel ? 0 : leavingCosts),
          [changeTerm]: changes,
          outside: spot.isOutside ? 1 : 0,
          rank: spot.rank,
        },
      })
      const nearRow = (spot: NearSpot): Row =>
        rowAt(spot, { costs: costsUnheard(spot.unheard), tokens: tokens(spot.unheard) })
      const far = { costs: costsUnheard(own), tokens: tokens(own) }
      const likeness = `${far.costs.stale} ${far.costs.warnings} ${changes}`
      const [atHome, away] = [farRows(`at home ${likeness}`), farRows(`away ${likeness}`)]
      const farRow = (spot: Spot): Row => {
        if (far.tokens.length > 0 || !isTakenAlike(spot)) return rowAt(spot, far)
        const alike = spot.channel === sender.channel ? atHome : away
        const row = alike.get(spot) ?? rowAt(spot, far)
        alike.set(spot, row)
        return row
      }
      const unheardNow = own.filter(({ hearsNow }) => !hearsNow(sender))
      const now = isWanting(sender) ? NOTHING : takesNow(sender)
      const stillRow = (still: Still): Row & { still: Still } => ({
        still,
        address: still.address,
        takes: Int32Array.from([...resources.kept(sender, now, still.isLeft), ...tokens(unheardNow)]),
        isStill: true,
        isFieldless: still.isUnmet,
        costs: { ...still.costs, warnings: costsUnheard(unheardNow).warnings },
      })
      const rows: Array<Row & { still?: Still }> = inAddressOrder([
        ...spots.flatMap((on) => [...on.far.map(farRow), ...on.near.map(nearRow)]),
        ...stillsOf(sender).map(stillRow),
      ])
      items.push({ sender, stills: rows.map(({ still }) => still ?? null) })
      return put(rows)
    }
    const addFixed = (sender: Sender): number => {
      const address = isWanting(sender) ? NOWHERE : sender.channel * CHANNEL_STRIDE + anchorOf(sender.message)
      items.push({ sender, stills: [] })
      return put([stillAt(address)])
    }
    const chains = chainsWithin.map((chain) =>
      chain.map((sender) => (free.has(sender) ? add(sender) : addFixed(sender))),
    )
    // A mapping that several serve is an item of its own: heard by one of them who does not leave it, or lost.
    const served = hearings.all.filter(({ leaders }) => leaders.length > 1)
    const mappings = served.map((hearing) => [
      put([
        ...hearing.leaders.map((leader) => stillAt(NOWHERE, [servedBy(hearing, leader)])),
        { ...stillAt(NOWHERE), costs: { warnings: 1, stale: hearing.isHeard ? 1 : 0 } },
      ]),
    ])
    const isFreed = (item: number, candidate: number): boolean => {
      const { sender, stills } = items[item] ?? {}
      return sender !== undefined && free.has(sender) && (stills?.[candidate] ?? null) === null
    }
    return {
      problem: { items: shapes, chains: [...chains, ...mappings], resources: resources.count() },
      senders: items.map(({ sender }) => sender),
      servedBy: served.map(({ leaders }) => leaders),
      free,
      goesTo: (item, candidate) => {
        const { sender } = items[item] ?? {}
        const address = shapes[item]?.addresses[candidate]
        if (!sender || address === undefined || !isFreed(item, candidate)) return null
        const freedom = freedomOf(context, request, sender)
        const isNumbered = 'free' in freedom && freedom.free === 'number'
        return {
          channel: CHANNELS[Math.floor(address / CHANNEL_STRIDE) - 1] ?? sender.channel,
          number: isNumbered ? address % CHANNEL_STRIDE : null,
        }
      },
      roomFor: (item) =>
        [...(shapes[item]?.addresses ?? [])].filter((_, candidate) => isFreed(item, candidate)),
      isLeft: (item, candidate) => {
        const still = items[item]?.stills[candidate] ?? null
        return still !== null && (still.isLeft || still.isUnmet)
      },
    }
  }
  return (troubles) => {
    const stays = staysOf(context, senders, troubles)
    // Building takes longer than leaving out what turned out to make an error.
    const known = new Map<string, BuiltProblem>()
    return (barred, wide) => {
      const key = [...wide].map(({ order }) => order).join(' ')
      const whole = known.get(key) ?? build(stays, wide)
      if (known.size === MOST_KEPT) known.clear()
      known.set(key, whole)
      return withoutBarred(whole, barred)
    }
  }
}

/** Is there an address for a sender, as it is with everybody else where they are? */
export function hasPlace(context: CheckContext, request: AllocateRequest, sender: Sender): boolean {
  const withFollowers = withFollowersIn(context)
  const spots = spotFinder(
    context,
    request,
    groundOf(context, new Set(withFollowers(sender))),
    hearingsOf(context, [sender], withFollowers),
    numbersWorthTrying(context.rig, context.occupancy.senders, [sender], request.rules),
  )(sender)
  return channelsFor(
    context.rig,
    request.policy,
    new Set([sender]),
  )(sender).some((channel) => {
    const { far, near } = spots(channel)
    return far.length + near.length > 0
  })
}

/** The same problem without the candidates that lead to barred spots. */
function withoutBarred(whole: BuiltProblem, barred: ReadonlySet<string>): BuiltProblem {
  if (barred.size === 0) return whole
  const named = [...barred]
  const everything = new Map(
    whole.problem.items.map((shape) => [shape, Int32Array.from(shape.addresses.keys())]),
  )
  const step = keepOnly(
    whole.problem,
    whole.problem.items.map((shape, item) => {
      const all = everything.get(shape) ?? new Int32Array()
      const sender = whole.senders[item]
      if (!sender || !named.some((spot) => spot.startsWith(sender.key))) return all
      return all.filter((candidate) => {
        const to = whole.goesTo(item, candidate)
        return to === null || !barSpots(sender, to.channel, to.number).some((spot) => barred.has(spot))
      })
    }),
  )
  const before = (item: number, candidate: number): number => step.kept[item]?.[candidate] ?? 0
  return {
    ...whole,
    problem: step.problem,
    goesTo: (item, candidate) => whole.goesTo(item, before(item, candidate)),
    roomFor: (item) =>
      [...(step.problem.items[item]?.addresses ?? [])].filter(
        (_, candidate) => whole.goesTo(item, before(item, candidate)) !== null,
      ),
    isLeft: (item, candidate) => whole.isLeft(item, before(item, candidate)),
  }
}

/** Rows of spots, by what they have in common beside the spot: most are the same for many senders. */
function rowsAlike(): (likeness: string) => Map<Spot, Row> {
  const known = new Map<string, Map<Spot, Row>>()
  return (likeness) => {
    const rows = known.get(likeness) ?? new Map<Spot, Row>()
    known.set(likeness, rows)
    return rows
  }
}

/** What mappings lose that hear nothing. */
type Lost = Record<'stale' | 'warnings', number>

/** What mappings cost that hear nothing; such as several serve have items of their own. */
function costsUnheard(unheard: readonly Hearing[]): Lost {
  const alone = unheard.filter(({ leaders }) => leaders.length === 1)
  return { stale: alone.filter(({ isHeard }) => isHeard).length, warnings: alone.length }
}

const NOTHING: Takes = { own: [], wide: [], carried: [] }

/** The only candidate of what cannot move, or one of a mapping. */
const stillAt = (address: number, takes: readonly number[] = []): Row => ({
  address,
  takes: Int32Array.from(takes),
  costs: {},
  isStill: true,
  isFieldless: false,
})

/** Does everyone who can go to a spot take the same there? */
const isTakenAlike = ({ takes: { wide, carried } }: Spot): boolean =>
  wide.length === 0 && carried.length === 0

/** What senders take at spots. Where it is the same for all who can go to a spot, it is put together once. */
function spotTaker(
  resources: Resources,
): (sender: Sender, spot: Spot, tokens: readonly number[]) => Int32Array {
  const known = new WeakMap<Spot, Int32Array>()
  return (sender, spot, tokens) => {
    if (!isTakenAlike(spot)) return Int32Array.from([...resources.taken(sender, spot.takes), ...tokens])
    const takes = known.get(spot) ?? Int32Array.from(resources.taken(sender, spot.takes))
    known.set(spot, takes)
    if (tokens.length === 0) return takes
    const all = new Int32Array(takes.length + tokens.length)
    all.set(takes)
    all.set(tokens, takes.length)
    return all
  }
}
