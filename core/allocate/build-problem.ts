import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import { covers, numberRank, preferencesAt, type CheckContext } from '../conflicts'
import { isChannelMessage } from '../rig'
import { sentAway } from './away'
import { alikeKey, anchorOf, CHANNEL_STRIDE, placesFor, barSpots, type Candidate } from './candidates'
import { chainsOf } from './chains'
import { channelsFor, groupOf } from './channels'
import { followersIn } from './followers'
import type { Trouble } from './free'
import { groundOf, together, type Takes } from './ground'
import { hearingsOf, withFollowersIn, type Hearing } from './hearing'
import { numbersWorthTrying } from './numbers'
import type { AllocateRequest } from './request'
import { NOWHERE, OWN_TERMS, type OwnTerm, type Problem, type Shape } from './solver/problem'
import { resourcesFor } from './resources'

/** A problem for the solver, with what its items and candidates stand for. */
export interface BuiltProblem {
  problem: Problem
  /** Who each item is; those that stay stand among them as neighbours. */
  senders: readonly Sender[]
  free: ReadonlySet<Sender>
  /** Where a candidate takes a sender, and all that go with it; null for one that leaves it as it is. */
  goesTo: (item: number, candidate: number) => Candidate['to']
  /** Addresses that could be given to a sender if it were alone. */
  roomFor: (item: number) => readonly number[]
  /** Is a sender left in an error, without a number, or where it was not to stay, by a candidate? */
  isLeft: (item: number, candidate: number) => boolean
}

/** A problem without the spots in `barred`; only senders in `wide` may leave their channel for want of room. */
export type BuildProblem = (barred: ReadonlySet<string>, wide: ReadonlySet<Sender>) => BuiltProblem

const NOTHING: Takes = { own: [], wide: [], carried: [] }
/** A candidate that changes nothing. */
interface Still extends Candidate {
  to: null
  /** Is it left in an error, so that others may stay? */
  isLeft: boolean
  /** Does it stay outside what was asked, so that it keeps to no field? */
  isUnmet: boolean
}

/** Who may not stay where they are, and groups of whom only one may. */
function staysOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): { barred: ReadonlySet<string>; groups: string[][] } {
  const { leaderOf } = followersIn(context)
  const leaders = new Map(
    troubles.flatMap((trouble) =>
      trouble.senders.map((sender) => [sender.key, (leaderOf(sender) ?? sender).key]),
    ),
  )
  const lead = (key: string): string => leaders.get(key) ?? key
  const free = new Set(senders.map(({ key }) => key))
  const barred = new Set(troubles.flatMap(({ alone }) => [...alone].map(lead)))
  const groups: string[][] = []
  for (const clique of troubles.flatMap(({ cliques }) => cliques)) {
    const group = [...new Set(clique.map(lead))]
    if (group.every((key) => free.has(key))) groups.push(group)
    else for (const key of group) barred.add(key)
  }
  return { barred, groups }
}

/** The problem of a request: who may go where, what it costs, and what is there only once. */
export function problemBuilder(
  context: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): BuildProblem {
  const { rig } = context
  const free = new Set(senders)
  const withFollowers = withFollowersIn(context)
  const ground = groundOf(context, new Set(senders.flatMap(withFollowers)))
  const numbers = numbersWorthTrying(rig, context.occupancy.senders, senders, request.rules)
  const chainsWithin = chainsOf(context, free)
  const takesNow = (sender: Sender): Takes => together(withFollowers(sender).map(ground.takesNow))
  const stays = staysOf(context, senders, troubles)

  const hearings = hearingsOf(context, senders, withFollowers)
  const inGroups = new Set(stays.groups.flat())
  const isGrouped = (sender: Sender): boolean => groupOf(rig, request.policy, sender) !== null

  /** The ways to leave a sender as it is: where it may stay, outside of what is asked, or in an error. */
  const stills = (sender: Sender): Still[] => {
    const number = anchorOf(sender.message)
    const isWithout = isWanting(sender)
    const unheard = hearings.of(sender).filter(({ hearsNow }) => !hearsNow(sender))
    const rules = preferencesAt(rig, request.rules, sender.place, sender.message.kind)
    const prefer = rules.filter(({ kind }) => kind === 'prefer')
    const still = (isLeft: boolean, isUnmet: boolean): Still => ({
      address: isWithout ? NOWHERE : sender.channel * CHANNEL_STRIDE + number,
      takes: isWithout ? NOTHING : takesNow(sender),
      to: null,
      unheardBy: unheard.filter(({ leaders }) => leaders.length > 1),
      isLeft,
      isUnmet,
      costs: {
        errors: isLeft ? 1 : 0,
        unmet: isUnmet ? 1 : 0,
        warnings: unheard.filter(({ leaders }) => leaders.length === 1).length,
        outside:
          !isWithout && prefer.length > 0 && !prefer.some((rule) => covers(rule, sender.channel, number))
            ? 1
            : 0,
        rank: !isWithout && isChannelMessage(sender.message) ? (numberRank(sender.message, number) ?? 4) : 0,
      },
    })
    if (isWithout) return [still(true, false)]
    const isAlone = stays.barred.has(sender.key)
    const grouped = isGrouped(sender)
    const canMeet = !sentAway(request, sender)
    return [
      ...(isAlone || !canMeet ? [] : [still(false, false)]),
      ...(isAlone || (canMeet && !grouped) ? [] : [still(false, true)]),
      ...((isAlone || inGroups.has(sender.key)) && canMeet ? [still(true, false)] : []),
      ...((isAlone || inGroups.has(sender.key)) && (!canMeet || grouped) ? [still(true, true)] : []),
    ]
  }

  // Found once: the same problem is built again without what turned out to make an error. Controls without mappings
  // that are alike in all that matters here can go to the same places.
  const found = new Map<string, (channel: Channel) => readonly Candidate[]>()
  const placesOf = (sender: Sender): ((channel: Channel) => readonly Candidate[]) => {
    const key = alikeKey(context, request, sender) ?? sender.key
    const places = found.get(key) ?? placesFor(context, request, ground, sender, hearings.of(sender), numbers)
    found.set(key, places)
    return places
  }

  return (barred, wide) => {
    const channels = channelsFor(rig, request.policy, wide)
    const resources = resourcesFor(context, request, senders, { ...ground, takesNow }, stays.groups)
    const items: Sender[] = []
    const candidates: Array<ReadonlyArray<Candidate | Still>> = []
    const shapes: Shape[] = []
    const shapeOf = shapesKnown()
    const put = (
      sender: Sender,
      list: ReadonlyArray<Candidate | Still>,
      takes: readonly number[][],
    ): number => {
      candidates.push(list)
      shapes.push(shapeOf(list, takes))
      return items.push(sender) - 1
    }
    const servedBy = (hearing: Hearing, { key }: Sender): number =>
      resources.token(`${hearing.name} by ${key}`)
    const add = (sender: Sender): number => {
      const isOpen = ({ to }: Candidate): boolean =>
        barred.size === 0 ||
        to === null ||
        !barSpots(sender, to.channel, to.number).some((spot) => barred.has(spot))
      const places = channels(sender).flatMap(placesOf(sender))
      // Those with one address stand together; without one is last.
      const all = [...places.filter(isOpen), ...stills(sender)].toSorted((a, b) => orderOf(a) - orderOf(b))
      return put(
        sender,
        all,
        all.map((each) => [
          ...(isStill(each)
            ? resources.kept(sender, each.takes, each.isLeft)
            : resources.taken(sender, each.takes)),
          ...each.unheardBy.map((hearing) => servedBy(hearing, sender)),
        ]),
      )
    }
    const addFixed = (sender: Sender): number => {
      const address = isWanting(sender) ? NOWHERE : sender.channel * CHANNEL_STRIDE + anchorOf(sender.message)
      return put(sender, [fixedAt(address)], [[]])
    }
    const chains = chainsWithin.map((chain) =>
      chain.map((sender) => (free.has(sender) ? add(sender) : addFixed(sender))),
    )
    // A mapping that several serve is an item of its own: heard by one of them who does not leave it, or lost.
    const served = hearings.all.filter(({ leaders }) => leaders.length > 1)
    const mappings = served.map((hearing) => {
      const ways = hearing.leaders.map((leader) => servedBy(hearing, leader))
      const lost = { warnings: 1, stale: hearing.isHeard ? 1 : 0 }
      const index = shapes.push(
        shapeOf(
          [...ways.map(() => fixedAt(NOWHERE)), { ...fixedAt(NOWHERE), costs: lost }],
          [...ways.map((token) => [token]), []],
        ),
      )
      return [index - 1]
    })
    return {
      problem: { items: shapes, chains: [...chains, ...mappings], resources: resources.count() },
      senders: items,
      free,
      goesTo: (item, candidate) => candidates[item]?.[candidate]?.to ?? null,
      roomFor: (item) => (candidates[item] ?? []).flatMap(({ address, to }) => (to ? [address] : [])),
      isLeft: (item, candidate) => {
        const chosen = candidates[item]?.[candidate]
        return chosen !== undefined && isStill(chosen) && (chosen.isLeft || chosen.isUnmet)
      },
    }
  }
}

const isStill = (candidate: Candidate | Still): candidate is Still => 'isLeft' in candidate
const orderOf = ({ address }: Candidate): number => (address === NOWHERE ? Number.MAX_SAFE_INTEGER : address)

/** The only candidate of what cannot move. */
const fixedAt = (address: number): Candidate => ({
  address,
  takes: NOTHING,
  to: null,
  costs: {},
  unheardBy: [],
})

/** Shapes of candidates; items with the very same candidates share one. */
function shapesKnown(): (list: ReadonlyArray<Candidate | Still>, takes: readonly number[][]) => Shape {
  const known = new Map<string, Shape>()
  return (list, takes) => {
    const leave = list.findLastIndex(({ to }) => to === null)
    const fieldless = Uint8Array.from(list, (each) => (isStill(each) && each.isUnmet ? 1 : 0))
    const key = JSON.stringify([
      list.map(({ address, costs }, index) => [address, costs, takes[index], fieldless[index]]),
      leave,
    ])
    const before = known.get(key)
    if (before) return before
    const shape: Shape = {
      addresses: Int32Array.from(list, ({ address }) => address),
      takes: takes.map((resources) => Int32Array.from(resources)),
      costs: Object.fromEntries(
        OWN_TERMS.map((term) => [term, Uint16Array.from(list, ({ costs }) => costs[term] ?? 0)]),
      ) as Record<OwnTerm, Uint16Array>,
      leave,
      fieldless: fieldless.includes(1) ? fieldless : null,
    }
    known.set(key, shape)
    return shape
  }
}
