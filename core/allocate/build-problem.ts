import { CHANNELS, type Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { apartIn, type Apart } from './apart'
import { anchorOf, barSpots, CHANNEL_STRIDE, spotFinder, type Spot } from './candidates'
import { chainsOf } from './chains'
import { channelsFor } from './channels'
import type { Trouble } from './free'
import { groundOf } from './ground'
import { hearingsOf, NO_HEARINGS, withFollowersIn, type Hearing } from './hearing'
import { freedomOf } from './movable'
import { numbersWorthTrying } from './numbers'
import type { AllocateRequest } from './request'
import { resourcesFor } from './resources'
import { shapeMaker, stretchOf, type Stretch } from './shapes'
import { noCosts, NOWHERE, type Problem, type Shape } from './solver/problem'
import { keepOnly } from './solver/reduce'
import { withRoomForAll } from './solver/roomy'
import { limitsOf } from './limits'
import { stillFinder, type Stays, type Still } from './stills'
import { stillAt, stretchFinder, type Place } from './stretches'
import { together, type Takes } from './takes'
import type { Ending, Teaching } from './teaching'
import { tiesOf } from './ties'

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
  /** Addresses that could be given to a sender if it were alone; the very same list for all that are alike. */
  roomFor: (item: number) => readonly number[]
  /** Is a sender left in an error, without a number, or where it was not to stay, by a candidate? */
  isLeft: (item: number, candidate: number) => boolean
  /** What has to be taught elsewhere for a sender to be in no error where a candidate leaves it. */
  endsBy: (item: number, candidate: number) => readonly Ending[]
}

/** Builds the problems of a request. */
export interface ProblemBuilder {
  /** The problem without the spots in `barred`; only senders in `wide` may leave their channel for want of room. */
  build: (barred: ReadonlySet<string>, wide: ReadonlySet<Sender>) => BuiltProblem
  /** The problem in which all may leave their channel, and whoever moves finds room. */
  roomy: () => Problem
  /** Is anybody held apart though layers share? */
  isApart: boolean
}

/** So many problems are kept to be narrowed: that of all on their channels, and those that let some leave theirs. */
const MOST_KEPT = 3

/** What one item stands for. */
interface Item {
  sender: Sender
  /** By candidate, where it does not go anywhere. */
  stills: ReadonlyMap<number, Still>
}

/**
 * The problem of a request: who may go where, what it costs, and what is there only once. Where everyone could go is found
 * once, for any list of errors that are to end. `holdsApart`: nobody may move what a control of another layer is taught, as far
 * as that can be seen to.
 */
export function problemBuilder(
  context: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
): (troubles: readonly Trouble[], how?: { holdsApart?: boolean; teaching?: Teaching }) => ProblemBuilder {
  const { rig } = context
  const free = new Set(senders)
  const withFollowers = withFollowersIn(context)
  const moving = new Set(senders.flatMap(withFollowers))
  const ground = groundOf(context, moving)
  const chainsWithin = chainsOf(context, free)
  const takesNow = (sender: Sender): Takes => together(withFollowers(sender).map(ground.takesNow))
  const hearings = hearingsOf(context, senders, withFollowers)
  const numbers = numbersWorthTrying(rig, context.occupancy.senders, senders, request.rules)
  const findSpots = spotFinder(context, request, ground, hearings, numbers)
  const spotsOf = new Map(senders.map((sender) => [sender, findSpots(sender)]))

  /** What is the same in all problems in which the same are held apart. */
  const materialFor = (apart: Apart | null) => {
    const resources = resourcesFor(context, request, senders, { ...ground, takesNow }, apart)
    const servedBy = (hearing: Hearing, { key }: Sender): number =>
      resources.token(`${hearing.mapping.id} by ${key}`)
    const stretchesWith = (far: 'all' | 'one') =>
      stretchFinder({
        request,
        resources,
        hearings,
        servedBy,
        takesNow,
        countOf: (sender) => withFollowers(sender).length,
        far,
        isAlikeForAll: apart === null,
      })
    return {
      apart,
      resources,
      servedBy,
      shapeOf: shapeMaker(),
      stretches: { all: stretchesWith('all'), one: stretchesWith('one') },
    }
  }
  const ofNobodyApart = materialFor(null)

  const build = (
    stays: Stays,
    { apart, resources, servedBy, shapeOf, stretches }: ReturnType<typeof materialFor>,
    wide: ReadonlySet<Sender>,
    far: 'all' | 'one' = 'all',
  ): BuiltProblem => {
    const stillsOf = stillFinder(context, request, stays)
    const ties = tiesOf(stays, resources)
    const channels = channelsFor(rig, request.policy, wide)
    const stretchesOf = stretches[far]
    const items: Item[] = []
    const shapes: Shape[] = []
    const put = (own: readonly Stretch[]): number => shapes.push(shapeOf(own)) - 1

    const add = (sender: Sender): number => {
      const spots = spotsOf.get(sender)
      const open = <S extends Spot>(all: readonly S[]): readonly S[] => {
        const isBarred = ({ takes }: S): boolean =>
          apart !== null && takes.own.some((cell) => apart.isBarred(sender, cell))
        // The list itself where it is the same for others, so that they are seen to be alike.
        return apart === null || !all.some(isBarred) ? all : all.filter((spot) => !isBarred(spot))
      }
      const on = channels(sender).flatMap((channel) => {
        if (!spots) return []
        const { far, near } = spots.on(channel)
        return { channel, far: open(far), near: open(near) }
      })
      const own = stretchesOf(sender, on, stillsOf(sender), ties)
      items.push({ sender, stills: stillsIn(own) })
      return put(own)
    }
    const addFixed = (sender: Sender): number => {
      const address = isWanting(sender) ? NOWHERE : sender.channel * CHANNEL_STRIDE + anchorOf(sender.message)
      items.push({ sender, stills: new Map() })
      return put([stretchOf([stillAt(address)])])
    }
    const chains = chainsWithin.map((chain) =>
      chain.map((sender) => (free.has(sender) ? add(sender) : addFixed(sender))),
    )
    // A mapping that several serve is an item of its own: heard by one of them who does not leave it, or lost.
    const served = hearings.all.filter(({ leaders }) => leaders.length > 1)
    const mappings = served.map((hearing) => [
      put([
        stretchOf([
          ...hearing.leaders.map((leader) => stillAt(NOWHERE, [servedBy(hearing, leader)])),
          {
            ...stillAt(NOWHERE),
            costs: { ...noCosts(), warnings: 1, stale: hearing.isHeard ? 1 : 0 },
          },
        ]),
      ]),
    ])
    const isFreed = (item: number, candidate: number): boolean => {
      const { sender, stills } = items[item] ?? {}
      return sender !== undefined && free.has(sender) && stills?.has(candidate) === false
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
      roomFor: roomIn(shapes, (item, candidate) => isFreed(item, candidate)),
      isLeft: (item, candidate) => {
        const still = items[item]?.stills.get(candidate)
        return still !== undefined && (still.isLeft || still.isUnmet)
      },
      endsBy: (item, candidate) => items[item]?.stills.get(candidate)?.lost ?? [],
    }
  }
  return (troubles, { holdsApart = false, teaching = new Map() } = {}) => {
    const stays = { ...limitsOf(context, senders, troubles), endings: teaching }
    const apart = holdsApart
      ? apartIn(context, request, senders, hearings, (sender) => moving.has(sender), takesNow)
      : null
    const material = apart ? materialFor(apart) : ofNobodyApart
    // Building takes longer than leaving out what turned out to make an error.
    const known = new Map<string, BuiltProblem>()
    return {
      isApart: apart !== null,
      build: (barred, wide) => {
        const key = [...wide].map(({ order }) => order).join(' ')
        const whole = known.get(key) ?? build(stays, material, wide)
        if (known.size === MOST_KEPT) known.clear()
        known.set(key, whole)
        return withoutBarred(whole, barred)
      },
      roomy: () => {
        const { problem, senders: own, goesTo } = build(stays, material, free, 'one')
        return withRoomForAll(problem, (item, candidate) => goesTo(item, candidate) !== null, own.length)
      },
    }
  }
}

/** Where each item could go. Items of one shape may stay by the same candidates, so it is looked for once a shape. */
function roomIn(
  shapes: readonly Shape[],
  moves: (item: number, candidate: number) => boolean,
): (item: number) => readonly number[] {
  const known = new Map<Shape, readonly number[]>()
  return (item) => {
    const shape = shapes[item]
    if (!shape) return []
    const room = known.get(shape) ?? [...shape.addresses].filter((_, candidate) => moves(item, candidate))
    known.set(shape, room)
    return room
  }
}

/** The candidates among some that leave a sender as it is. */
function stillsIn(stretches: ReadonlyArray<Stretch<Place>>): ReadonlyMap<number, Still> {
  const stills = new Map<number, Still>()
  let candidate = 0
  for (const { rows, leave } of stretches) {
    for (let index = 0; index <= leave; index++) {
      const still = rows[index]?.still
      if (still) stills.set(candidate + index, still)
    }
    candidate += rows.length
  }
  return stills
}

/** Is there an address for a sender, as it is with everybody else where they are? */
export function hasPlace(context: CheckContext, request: AllocateRequest, sender: Sender): boolean {
  const withFollowers = withFollowersIn(context)
  const { isAnyOn } = spotFinder(
    context,
    request,
    groundOf(context, new Set(withFollowers(sender))),
    NO_HEARINGS,
    numbersWorthTrying(context.rig, context.occupancy.senders, [sender], request.rules),
  )(sender)
  return channelsFor(context.rig, request.policy, new Set([sender]))(sender).some(isAnyOn)
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
    roomFor: roomIn(
      step.problem.items,
      (item, candidate) => whole.goesTo(item, before(item, candidate)) !== null,
    ),
    isLeft: (item, candidate) => whole.isLeft(item, before(item, candidate)),
    endsBy: (item, candidate) => whole.endsBy(item, before(item, candidate)),
  }
}
