import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import { covers, numberRank, preferencesAt, type CheckContext } from '../conflicts'
import { isChannelMessage } from '../rig'
import { sentAway } from './away'
import {
  alikeKey,
  anchorOf,
  CHANNEL_STRIDE,
  ownMappings,
  placesFor,
  spotOf,
  type Candidate,
} from './candidates'
import { chainsOf } from './chains'
import { channelsFor } from './channels'
import { followersIn } from './followers'
import type { Trouble } from './free'
import { groundOf, together, type Takes } from './ground'
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
}

/** A problem without the spots in `barred`; only senders in `wide` may leave their channel for want of room. */
export type BuildProblem = (barred: ReadonlySet<string>, wide: ReadonlySet<Sender>) => BuiltProblem

const NOTHING: Takes = { own: [], wide: [] }
const NOT_GIVEN: Candidate = { address: NOWHERE, takes: NOTHING, to: null, costs: { errors: 1 } }

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
  const followers = followersIn(context)
  const withFollowers = (sender: Sender): Sender[] => [sender, ...followers.of(sender)]
  const ground = groundOf(context, new Set(senders.flatMap(withFollowers)))
  const numbers = numbersWorthTrying(rig, context.occupancy.senders, senders, request.rules)
  const chainsWithin = chainsOf(context, free)
  const takesNow = (sender: Sender): Takes => together(withFollowers(sender).map(ground.takesNow))
  const stays = staysOf(context, senders, troubles)

  const stay = (sender: Sender): Candidate | null => {
    const number = anchorOf(sender.message)
    if (stays.barred.has(sender.key) || sentAway(request, sender) || isWanting(sender)) return null
    const rules = preferencesAt(rig, request.rules, sender.place, sender.message.kind)
    const prefer = rules.filter(({ kind }) => kind === 'prefer')
    return {
      address: sender.channel * CHANNEL_STRIDE + number,
      takes: takesNow(sender),
      to: null,
      costs: {
        warnings: withFollowers(sender).flatMap((each) =>
          ownMappings(context, each).filter(({ isUnheard }) => isUnheard),
        ).length,
        outside: prefer.length > 0 && !prefer.some((rule) => covers(rule, sender.channel, number)) ? 1 : 0,
        rank: isChannelMessage(sender.message) ? (numberRank(sender.message, number) ?? 4) : 0,
      },
    }
  }

  // Found once: the same problem is built again without what turned out to make an error. Controls without mappings
  // that are alike in all that matters here can go to the same places.
  const found = new Map<string, (channel: Channel) => readonly Candidate[]>()
  const placesOf = (sender: Sender): ((channel: Channel) => readonly Candidate[]) => {
    const key = alikeKey(context, request, sender) ?? sender.key
    const places = found.get(key) ?? placesFor(context, request, ground, sender, numbers)
    found.set(key, places)
    return places
  }

  return (barred, wide) => {
    const channels = channelsFor(rig, request.policy, wide)
    const resources = resourcesFor(context, request, senders, takesNow, stays.groups)
    const items: Sender[] = []
    const candidates: Candidate[][] = []
    const takes: number[][][] = []
    const add = (sender: Sender): number => {
      const isOpen = ({ to }: Candidate): boolean =>
        barred.size === 0 || to === null || !barred.has(spotOf(sender, to.channel, to.number))
      const places = channels(sender).flatMap(placesOf(sender))
      const kept = stay(sender)
      const all = [...places.filter(isOpen), ...(kept ? [kept] : [])].toSorted(
        (a, b) => a.address - b.address,
      )
      candidates.push([...all, NOT_GIVEN])
      takes.push([
        ...all.map((each) =>
          each === kept ? resources.kept(sender, each.takes) : resources.taken(sender, each.takes),
        ),
        [],
      ])
      return items.push(sender) - 1
    }
    const addFixed = (sender: Sender): number => {
      const address = isWanting(sender) ? NOWHERE : sender.channel * CHANNEL_STRIDE + anchorOf(sender.message)
      candidates.push([{ address, takes: NOTHING, to: null, costs: {} }])
      takes.push([[]])
      return items.push(sender) - 1
    }
    const chains = chainsWithin.map((chain) =>
      chain.map((sender) => (free.has(sender) ? add(sender) : addFixed(sender))),
    )
    return {
      problem: { items: shapesOf(candidates, takes), chains, resources: resources.count() },
      senders: items,
      free,
      goesTo: (item, candidate) => candidates[item]?.[candidate]?.to ?? null,
      roomFor: (item) => (candidates[item] ?? []).flatMap(({ address, to }) => (to ? [address] : [])),
    }
  }
}

/** Shapes of candidates; items with the very same candidates share one. */
function shapesOf(candidates: ReadonlyArray<readonly Candidate[]>, takes: readonly number[][][]): Shape[] {
  const known = new Map<string, Shape>()
  return candidates.map((list, item) => {
    const own = takes[item] ?? []
    const key = JSON.stringify(list.map(({ address, costs }, index) => [address, costs, own[index]]))
    const before = known.get(key)
    if (before) return before
    const shape: Shape = {
      addresses: Int32Array.from(list, ({ address }) => address),
      takes: own.map((resources) => Int32Array.from(resources)),
      costs: Object.fromEntries(
        OWN_TERMS.map((term) => [term, Uint16Array.from(list, ({ costs }) => costs[term] ?? 0)]),
      ) as Record<OwnTerm, Uint16Array>,
    }
    known.set(key, shape)
    return shape
  })
}
