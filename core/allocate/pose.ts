import type { Channel } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { arrivedAs, meetsExpected } from '../mappings'
import {
  channelOf,
  controlsOf,
  mappingsOf,
  modelOf,
  numberBounds,
  numberOf,
  readingOrder,
  rigIndex,
  splitGestureKey,
  type ChannelMessage,
} from '../rig'
import { preferencesAt, type Preference } from './asked'
import { channelsFor } from './channels'
import { liesAway, sentAway, type Trouble } from './free'
import { groundOf, messageAt, type Ground } from './ground'
import { classRank } from './rank'
import type { AllocateRequest } from './request'
import { NOWHERE, OWN_TERMS, type OwnTerm, type Problem, type Shape } from './solver/problem'

/** Numbers of NRPN above this are not given out: their runs would be beyond remembering. */
const HIGHEST_NRPN = 1023
/** Addresses of neighbouring channels never touch. */
const CHANNEL_STRIDE = 2 ** 15

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

interface Candidate {
  address: number
  takes: readonly number[]
  costs: Partial<Record<OwnTerm, number>>
  message: ChannelMessage | null
}

/** Is a sender left where it is, or given what it had, counted as a change that is to be rare? */
const isRepair = ({ kind }: AllocateRequest): boolean =>
  kind === 'repair' || kind === 'avoid' || kind === 'make-room'

const rankOf = (message: ChannelMessage, number: number): number | null => {
  if (message.kind !== 'cc' && message.kind !== 'cc14') return 0
  return classRank(number)
}

const covers = (rule: Preference, channel: Channel, number: number): boolean =>
  (rule.channel === null || rule.channel === channel) && number >= rule.low && number <= rule.high

/** A mapping of a sender's gesture that was taught, and how it stands with it. */
interface OwnMapping {
  hears: (message: ChannelMessage) => boolean
  /** Is it this sender, and no other of its gesture, that the mapping hears now? */
  isHeldUp: boolean
  /** Could this sender, as the only one of its gesture, bring a mapping back that hears nothing now? */
  isUnheard: boolean
}

function ownMappings({ rig, joins }: CheckContext, sender: Sender): OwnMapping[] {
  const owner = rigIndex(rig).controllers.get(sender.place.controller)
  const ids = new Set(mappingsOf(rig, sender.gesture).map(({ id }) => id))
  if (!owner || ids.size === 0) return []
  return joins()
    .filter(({ mapping }) => ids.has(mapping.id))
    .flatMap(({ mapping, expected, senders, meeting }) => {
      if (!expected) return []
      return [
        {
          hears: (message: ChannelMessage): boolean =>
            arrivedAs(rig, owner, message, mapping.destination).some((arrived) =>
              meetsExpected(arrived, channelOf(arrived, owner.homeChannel), expected),
            ),
          isHeldUp: meeting.length === 1 && meeting[0] === sender,
          isUnheard: meeting.length === 0 && senders.length === 1,
        },
      ]
    })
}

/** Neighbours of one block, layer and kind in reading order, each with all that stay among them. */
function chainsOf({ rig, occupancy }: CheckContext, free: ReadonlySet<Sender>): Sender[][] {
  const groups = new Map<string, Sender[]>()
  for (const sender of occupancy.senders) {
    const { place, message, messageIndex } = sender
    const controller = rigIndex(rig).controllers.get(place.controller)
    const { control: id, gesture } = splitGestureKey(place.gesture)
    const block = controller && controlsOf(modelOf(rig, controller)).get(id)?.block
    const key = block
      ? `${place.controller}/${place.template}/${place.layer ?? ''}/${block}/${gesture}/${message.kind}/${messageIndex}`
      : sender.key
    const list = groups.get(key)
    if (list) list.push(sender)
    else groups.set(key, [sender])
  }
  return [...groups.values()]
    .filter((group) => group.some((sender) => free.has(sender)))
    .map((group) => {
      const controller = rigIndex(rig).controllers.get(group[0]?.place.controller ?? '')
      if (!controller || group.length === 1) return group
      const controls = controlsOf(modelOf(rig, controller))
      const own = group.flatMap(({ place }) => controls.get(splitGestureKey(place.gesture).control) ?? [])
      const order = new Map(readingOrder(own).map(({ id }, index) => [id, index]))
      const at = ({ place }: Sender): number => order.get(splitGestureKey(place.gesture).control) ?? 0
      return group.toSorted((a, b) => at(a) - at(b))
    })
}

/** Everything that could be said of one free sender's places to go. */
function candidatesFor(
  context: CheckContext,
  request: AllocateRequest,
  ground: Ground,
  sender: Sender,
  channels: readonly Channel[],
  barred: ReadonlySet<string>,
): Candidate[] {
  const { rig } = context
  const { message } = sender
  const bounds = numberBounds(message.kind)
  if (bounds === null) return []
  const rules = preferencesAt(rig, request.rules, sender.place, message.kind)
  const avoid = rules.filter(({ kind }) => kind === 'avoid')
  const prefer = rules.filter(({ kind }) => kind === 'prefer')
  const own = ownMappings(context, sender)
  const term = isRepair(request) ? 'changed' : 'moved'
  const candidates: Candidate[] = []
  for (const channel of channels) {
    for (let number = bounds.low; number <= Math.min(bounds.high, HIGHEST_NRPN); number++) {
      if (channel === sender.channel && number === numberOf(message)) continue
      if (
        avoid.some((rule) => covers(rule, channel, number)) ||
        liesAway(request, message.kind, channel, number)
      )
        continue
      if (barred.has(`${sender.key} ${channel} ${number}`)) continue
      const at = messageAt(rig, sender, channel, number)
      const rank = at && rankOf(at, number)
      if (!at || rank === null) continue
      const takes = ground.takesAt(sender, at, request.shareLayers)
      if (takes === null) continue
      const lost = own.filter(({ isHeldUp, hears }) => isHeldUp && !hears(at)).length
      const unheard = own.filter(({ isUnheard, hears }) => isUnheard && !hears(at)).length
      candidates.push({
        address: channel * CHANNEL_STRIDE + number,
        takes,
        message: at,
        costs: {
          stale: lost,
          warnings:
            lost + unheard + (request.policy.kind === 'keep-if-room' && channel !== sender.channel ? 1 : 0),
          [term]: isWanting(sender) ? 0 : 1,
          outside: prefer.length > 0 && !prefer.some((rule) => covers(rule, channel, number)) ? 1 : 0,
          rank,
        },
      })
    }
  }
  return candidates
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

/** What the places that a sender can go to depend on; null where that is itself alone. */
function alikeKey(
  { rig, occupancy }: CheckContext,
  request: AllocateRequest,
  sender: Sender,
  barred: ReadonlySet<string>,
): string | null {
  const { message, place } = sender
  if (mappingsOf(rig, sender.gesture).length > 0 || barred.size > 0 || !isWanting(sender)) return null
  const reached = occupancy.emissionsOf(sender).map(({ bus }) => bus.id)
  const block = preferencesAt(rig, request.rules, place, message.kind)
  const layer = request.shareLayers || request.policy.kind === 'each-layer' ? standingKey(sender) : ''
  return JSON.stringify([
    place.controller,
    { ...message, number: 0, keys: 0, range: 0 },
    reached,
    block,
    layer,
  ])
}

const standingKey = ({ place }: Sender): string =>
  `${place.controller}/${place.template}/${place.layer ?? ''}`

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
