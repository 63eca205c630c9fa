import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { numberOf, type ChannelMessage } from '../rig'
import { preferencesAt } from './asked'
import {
  alikeKey,
  candidatesFor,
  CHANNEL_STRIDE,
  covers,
  ownMappings,
  rankOf,
  standingKey,
  type Candidate,
} from './candidates'
import { chainsOf } from './chains'
import { channelsFor } from './channels'
import { sentAway, type Trouble } from './free'
import { groundOf } from './ground'
import type { AllocateRequest } from './request'
import { NOWHERE, OWN_TERMS, type OwnTerm, type Problem, type Shape } from './solver/problem'

/** A problem for the solver, with what its items and candidates stand for. */
export interface Posed {
  problem: Problem
  /** Who each item is; those that stay stand among them as neighbours. */
  senders: readonly Sender[]
  free: ReadonlySet<Sender>
  /** The message of a candidate; null for one that leaves a sender as it is. */
  messageOf: (item: number, candidate: number) => ChannelMessage | null
  /** Addresses that could be given to a sender if it were alone. */
  roomFor: (item: number) => readonly number[]
}

/** The problem of a request: who may go where, what it costs, and what is there only once. */
export function pose(
  context: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
  barred: ReadonlySet<string>,
  wide: ReadonlySet<Sender>,
): Posed {
  const { rig, live } = context
  const free = new Set(senders)
  const ground = groundOf(context, free)
  const channels = channelsFor(context.occupancy, request.policy, senders, wide)
  const resources = new Map<string, number>()
  const resource = (name: string): number => {
    const known = resources.get(name) ?? resources.size
    resources.set(name, known)
    return known
  }

  // An address that several of them have now stays theirs: whoever moves goes elsewhere.
  const sharedNow = new Set<number>()
  const seen = new Set<number>()
  for (const sender of senders) {
    for (const cell of new Set(ground.takesNow(sender))) {
      if (seen.has(cell)) sharedNow.add(cell)
      seen.add(cell)
    }
  }

  // Layers that may share have each cell once for themselves and once for each layer that can show with them.
  const standings = request.shareLayers
    ? [...new Map(senders.map((sender) => [standingKey(sender), sender])).values()]
    : []
  const named = (sender: Sender, cell: number): number[] => {
    if (!request.shareLayers) return [resource(String(cell))]
    const own = standingKey(sender)
    return standings
      .filter((other) => standingKey(other) === own || live(sender, other))
      .map((other) => resource(`${cell} ${[own, standingKey(other)].toSorted().join(' ')}`))
  }

  const alone = new Set(troubles.flatMap((trouble) => [...trouble.alone]))
  const groups = troubles.flatMap(({ cliques }) => cliques)
  const freeKeys = new Set(senders.map(({ key }) => key))
  const virtual = new Map<string, number[]>()
  groups.forEach((group, index) => {
    const isMet = group.some((key) => !freeKeys.has(key))
    for (const key of group) {
      if (isMet) alone.add(key)
      else virtual.set(key, [...(virtual.get(key) ?? []), resource(`group ${index}`)])
    }
  })

  const stay = (sender: Sender): Candidate[] => {
    const number = numberOf(sender.message)
    const isBad = alone.has(sender.key) || sentAway(request, sender)
    if (number === null || isBad || isWanting(sender)) return []
    const rules = preferencesAt(rig, request.rules, sender.place, sender.message.kind)
    const prefer = rules.filter(({ kind }) => kind === 'prefer')
    return [
      {
        address: sender.channel * CHANNEL_STRIDE + number,
        takes: [...new Set(ground.takesNow(sender))].filter((cell) => !sharedNow.has(cell)),
        message: null,
        costs: {
          warnings: ownMappings(context, sender).filter(({ isUnheard }) => isUnheard).length,
          outside: prefer.length > 0 && !prefer.some((rule) => covers(rule, sender.channel, number)) ? 1 : 0,
          rank: rankOf(sender.message, number) ?? 4,
        },
      },
    ]
  }

  // Controls without mappings that are alike in all that matters here can go to the same places.
  const alike = new Map<string, Candidate[]>()
  const placesFor = (sender: Sender): Candidate[] => {
    const find = () => candidatesFor(context, request, ground, sender, channels(sender), barred)
    const key = alikeKey(context, request, sender, barred)
    if (key === null) return find()
    const found = alike.get(key) ?? find()
    alike.set(key, found)
    return found
  }

  const chains: number[][] = []
  const items: Sender[] = []
  const candidates: Candidate[][] = []
  const takes: number[][][] = []
  for (const chain of chainsOf(context, free)) {
    chains.push(
      chain.map((sender) => {
        const number = numberOf(sender.message)
        const kept: Candidate = {
          address: number === null ? NOWHERE : sender.channel * CHANNEL_STRIDE + number,
          takes: [],
          message: null,
          costs: {},
        }
        const isFree = free.has(sender)
        const stays = stay(sender)
        const all = isFree
          ? [
              ...placesFor(sender).filter(
                (candidate) => !candidate.takes.some((cell) => sharedNow.has(cell)),
              ),
              ...stays,
            ].toSorted((a, b) => a.address - b.address)
          : [kept]
        if (isFree) all.push({ address: NOWHERE, takes: [], message: null, costs: { errors: 1 } })
        items.push(sender)
        candidates.push(all)
        takes.push(
          all.map((candidate) => [
            ...candidate.takes.flatMap((cell) => named(sender, cell)),
            ...(stays.includes(candidate) ? (virtual.get(sender.key) ?? []) : []),
          ]),
        )
        return items.length - 1
      }),
    )
  }
  return {
    problem: { items: shapesOf(candidates, takes), chains, resources: resources.size },
    senders: items,
    free,
    messageOf: (item, candidate) => candidates[item]?.[candidate]?.message ?? null,
    roomFor: (item) => (candidates[item] ?? []).flatMap(({ address, message }) => (message ? [address] : [])),
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
