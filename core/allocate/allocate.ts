import { CHANNELS } from '../midi'
import { isWanting, type Sender } from '../addresses'
import {
  findingPlace,
  messageAt,
  newErrors,
  placeWords,
  recheckWith,
  type Apply,
  type Check,
  type CheckContext,
} from '../conflicts'
import { mappingName, onceTaught, unheardAfter } from '../mappings'
import { MESSAGE_KIND_NAME, placeKey, sentAddress, type Rig, type RigEdit } from '../rig'
import { firstCures } from './cures'
import { CHANNEL_STRIDE, spotOf } from './candidates'
import { groupOf } from './channels'
import { followersIn } from './followers'
import { askedSenders, troublesOf, type Trouble } from './free'
import { whyFixed, whyLeftOut } from './movable'
import type { Plan, PlannedChange, Shortage } from './plan'
import { problemBuilder, type BuildProblem, type BuiltProblem } from './build-problem'
import type { AllocateRequest } from './request'
import { NOWHERE, type Choice } from './solver/problem'
import { standIn } from './stand-in'
import { solveInFields, type Fields } from './solver/fields'
import { solve, type Progress, type Solution } from './solver/solve'

/** After so many attempts whatever still makes an error is left out of the plan. */
const MOST_ATTEMPTS = 6

function changesOf(
  context: CheckContext,
  built: BuiltProblem,
  choice: Choice,
  reasonFor: (sender: Sender) => string,
): PlannedChange[] {
  return built.senders.flatMap((sender, item): PlannedChange[] => {
    const to = built.free.has(sender) ? built.goesTo(item, choice[item] ?? 0) : null
    if (to === null) return []
    const spot = spotOf(sender, to.channel, to.number)
    return [sender, ...followersIn(context).of(sender)].flatMap((each): PlannedChange[] => {
      const message = messageAt(context.rig, each, to.channel, to.number)
      const address = message && sentAddress(message, each.home)
      if (!message || !address) return []
      return [
        {
          key: each.key,
          at: { ...each.place, message: each.messageIndex },
          from: isWanting(each) ? null : each.address,
          to: address,
          channel: to.channel,
          spot,
          reason: each === sender ? reasonFor(sender) : 'It goes where the note of its control goes.',
          edit: { type: 'message', at: each.place, index: each.messageIndex, message },
        },
      ]
    })
  })
}

function reasons(request: AllocateRequest, troubles: readonly Trouble[]): (sender: Sender) => string {
  const first = new Map<string, string>()
  for (const { senders, message } of troubles) {
    for (const { key } of senders) if (!first.has(key)) first.set(key, message)
  }
  return (sender) => {
    if (isWanting(sender)) return 'It had no number.'
    const trouble = first.get(sender.key)
    if (trouble !== undefined) return trouble
    if (request.kind === 'avoid') return 'It is among what to move away from.'
    return 'A better number, by what was asked.'
  }
}

const isWide = ({ policy }: AllocateRequest): boolean =>
  policy.kind === 'keep-if-room' || (policy.kind === 'among' && policy.channels.length === 16)

/** Who is left without an address, gathered by where they could have gone, with what would help. */
function shortagesOf(
  check: Check,
  request: AllocateRequest,
  built: BuiltProblem,
  choice: Choice,
  troubles: readonly Trouble[],
): Shortage[] {
  const { rig } = check.context
  const groups = new Map<string, { senders: Sender[]; room: Set<number> }>()
  built.senders.forEach((sender, item) => {
    if (!isLeft(built, choice, item)) return
    const key = `${sender.place.controller} ${sender.channel} ${sender.message.kind}`
    const group = groups.get(key) ?? { senders: [], room: new Set() }
    groups.set(key, group)
    group.senders.push(sender)
    for (const address of built.roomFor(item)) group.room.add(address)
  })
  const rivalsFor = (senders: readonly Sender[], room: ReadonlySet<number>): ReadonlySet<Sender> =>
    new Set([
      ...senders,
      ...built.senders.filter(
        (sender, item) => built.free.has(sender) && built.roomFor(item).some((address) => room.has(address)),
      ),
    ])
  return [...groups.values()].map(({ senders, room }) => {
    const rivals = rivalsFor(senders, room)
    const [first] = senders
    const kind = first ? MESSAGE_KIND_NAME[first.message.kind] : ''
    const pinned = troubles
      .filter((trouble) => trouble.senders.some(({ key }) => senders.some((each) => each.key === key)))
      .flatMap((trouble) =>
        trouble.senders.filter(
          (sender) => sender.pinned && whyFixed(check.context, request, sender) !== null,
        ),
      )
    const helps = [
      ...(isWide(request) ? [] : ['let them use another channel']),
      ...(request.shareLayers ? [] : ['let layers share']),
      ...(pinned.length > 0 ? [`unpin ${placeWords(rig, pinned.map(findingPlace))}`] : []),
    ]
    const left = `${senders.length === 1 ? 'this one is' : `these ${senders.length} are`} left.`
    if (request.policy.kind.startsWith('each-'))
      return {
        message: `${placeWords(rig, senders.map(findingPlace))}: no one channel has room for all that are to be together on it and reaches what each of them moves; ${left}`,
        help: 'To help: let channels stay as they are, or choose which may be used.',
        at: senders.map(findingPlace),
      }
    const where = isWide(request) ? 'on any channel' : `on channel ${first?.channel ?? 1}`
    return {
      message: `${placeWords(rig, senders.map(findingPlace))}: ${rivals.size === 1 ? '1 gesture wants' : `${rivals.size} gestures compete for`} ${room.size === 0 ? `a ${kind} number` : `${room.size} free ${kind} ${room.size === 1 ? 'number' : 'numbers'}`} ${where}${room.size === 0 ? ', and none is free' : ''}; ${left}`,
      help: helps.length === 0 ? '' : `To help: ${helps.join(', or ')}.`,
      at: senders.map(findingPlace),
    }
  })
}

/** Whom it was asked to give another address and may not, by why. */
function heldBack(context: CheckContext, request: AllocateRequest, fixed: readonly Sender[]): Shortage[] {
  const said = new Map<string, Sender[]>()
  for (const sender of fixed) {
    const isCarried = followersIn(context).leaderOf(sender) !== null
    const why = isCarried || whyLeftOut(request, sender) ? null : whyFixed(context, request, sender)
    if (why !== null) said.set(why, [...(said.get(why) ?? []), sender])
  }
  const movesIfNamed = (sender: Sender): boolean =>
    whyFixed(context, { ...request, gestures: [...request.gestures, sender.gesture] }, sender) === null
  return [...said].map(([why, senders]) => ({
    message: `${placeWords(context.rig, senders.map(findingPlace))}: ${why}, so ${senders.length === 1 ? 'it is left as it is' : 'they are left as they are'}.`,
    help: senders.every(movesIfNamed)
      ? 'To help: name it, by selecting it and letting only what is selected change, or change it yourself.'
      : 'No plan may change it: change it yourself.',
    at: senders.map(findingPlace),
  }))
}

/** Errors of which nothing may be moved, each with why. */
function heldErrors(
  context: CheckContext,
  request: AllocateRequest,
  troubles: readonly Trouble[],
): Shortage[] {
  return troubles.flatMap((trouble) => {
    const cures = new Set([...trouble.alone, ...trouble.cliques.flat()])
    const whys = trouble.senders
      .filter(({ key }) => cures.has(key))
      .map((sender) => ({ sender, why: whyFixed(context, request, sender) }))
    const movers = whys.filter(({ why }) => why === null)
    if (movers.length > 0) return []
    const said = new Map<string, Sender[]>()
    for (const { sender, why } of whys) said.set(why ?? '', [...(said.get(why ?? '') ?? []), sender])
    const parts = [...said].map(
      ([why, senders]) => `${placeWords(context.rig, senders.map(findingPlace))}: ${why}`,
    )
    return [
      {
        message: trouble.message,
        help: `None of it may move. ${parts.join('. ')}.`,
        at: trouble.senders.map(findingPlace),
      },
    ]
  })
}

/** The changes that have part in errors that were not there before. */
function bringErrors(before: Check, after: Check, changes: readonly PlannedChange[]): PlannedChange[] {
  const places = new Set(newErrors(before, after).flatMap(({ at }) => at.map(placeKey)))
  return changes.filter(({ at }) => places.has(placeKey(at)))
}

const isLeft = ({ problem, free, senders }: BuiltProblem, choice: Choice, item: number): boolean => {
  const sender = senders[item]
  return (
    sender !== undefined && free.has(sender) && problem.items[item]?.addresses[choice[item] ?? 0] === NOWHERE
  )
}

/** Those who are left without an address, and all who could have had one of those they could have had. */
function rivalsOf(built: BuiltProblem, choice: Choice): ReadonlySet<Sender> {
  const left = built.senders.flatMap((_, item) => (isLeft(built, choice, item) ? [item] : []))
  const room = new Set(left.flatMap((item) => built.roomFor(item)))
  return new Set(
    built.senders.filter(
      (sender, item) =>
        built.free.has(sender) &&
        (left.includes(item) || built.roomFor(item).some((address) => room.has(address))),
    ),
  )
}

/** Which items go to one channel together, in the order of the rig; null where each goes by itself. */
function channelGroups(
  rig: Rig,
  { policy }: AllocateRequest,
  { senders, free }: BuiltProblem,
): Fields | null {
  const numbers = new Map<string, number>()
  const groups = senders.map((sender) => {
    const group = free.has(sender) ? groupOf(rig, policy, sender) : null
    if (group === null) return -1
    const number = numbers.get(group) ?? numbers.size
    numbers.set(group, number)
    return number
  })
  return numbers.size === 0
    ? null
    : {
        groups,
        count: numbers.size,
        fieldOf: (address) => Math.floor(address / CHANNEL_STRIDE) - 1,
        within: (address) => address % CHANNEL_STRIDE,
      }
}

/**
 * Solve it on the channels that senders have. Where that leaves some without an address, and they may go
 * elsewhere, they and their rivals may go to all channels.
 */
function planned(
  { context }: Check,
  request: AllocateRequest,
  buildProblem: BuildProblem,
  barred: ReadonlySet<string>,
  onProgress?: (progress: Progress) => boolean,
): { built: BuiltProblem; solution: Solution } {
  const options = { steps: request.steps, ...(onProgress ? { onProgress } : {}) }
  const near = buildProblem(barred, new Set())
  const together = channelGroups(context.rig, request, near)
  if (together)
    return { built: near, solution: solveInFields(near.problem, together, CHANNELS.length, options) }
  const solution = solve(near.problem, options)
  if (request.policy.kind !== 'keep-if-room' || solution.score.errors === 0) return { built: near, solution }
  const wide = buildProblem(barred, rivalsOf(near, solution.choice))
  return { built: wide, solution: solve(wide.problem, options) }
}

/** Who is struck out keeps those in place with whom it would have gone. */
function withLeaders(context: CheckContext, request: AllocateRequest): AllocateRequest {
  const struck = new Set(request.struck)
  const leaders = context.occupancy.senders.flatMap((sender) =>
    struck.has(sender.key) ? (followersIn(context).leaderOf(sender)?.key ?? []) : [],
  )
  return leaders.length === 0 ? request : { ...request, struck: [...request.struck, ...leaders] }
}

/**
 * Plan addresses for a rig that has been checked: what a request asks for, at the least cost, term by term (see
 * `docs/allocation.md`). The same request always gives the same plan. It makes no error that was not there, and
 * moves nothing that is pinned, fixed at a destination, a pitch, or meant by the standard, unless the request names it.
 */
export function allocate(
  given: Check,
  asked: AllocateRequest,
  apply: Apply,
  onProgress?: (progress: Progress) => boolean,
): Plan {
  if (asked.kind === 'stand-in') {
    const { controller, for: missing, struck } = asked
    return standIn(given, { controller, missing, struck }, apply)
  }
  const first = asked.kind === 'repair' ? firstCures(given, asked.struck, apply) : { cures: [], check: given }
  const { check } = first
  const { rig } = check.context
  const request = withLeaders(check.context, asked)
  const troubles = troublesOf(check)
  const { free: senders, fixed } = askedSenders(check, request, troubles)
  const buildProblem = problemBuilder(check.context, request, senders, troubles)
  const barred = new Set<string>()
  for (let attempt = 1; ; attempt++) {
    const { built, solution } = planned(check, request, buildProblem, barred, onProgress)
    const changes = changesOf(check.context, built, solution.choice, reasons(request, troubles))
    const moves = changes.map(({ edit }): RigEdit => edit)
    const moved = apply(rig, moves)
    // A plan comes with its list of what to teach again: what it leaves is what is left once that is done.
    const after = recheckWith(check, onceTaught(rig, moved).rig, apply)
    const bad = bringErrors(check, after, changes)
    if (bad.length > 0 && attempt < MOST_ATTEMPTS) {
      for (const change of bad) barred.add(change.spot)
      continue
    }
    if (bad.length > 0) {
      const struck = [...request.struck, ...bad.map(({ key }) => key)]
      return allocate(given, { ...request, struck }, apply, onProgress)
    }
    const afterIds = new Set(after.findings.map(({ id }) => id))
    const left = new Set(troublesOf(after).map(({ message }) => message))
    return {
      cures: first.cures,
      changes,
      edits: [...first.cures.flatMap(({ edits }) => edits), ...moves],
      resolves: given.findings.filter(({ id }) => !afterIds.has(id)),
      leaves: after.findings.filter(({ message, severity }) => severity === 'error' && left.has(message)),
      stale: unheardAfter(given.context.rig, moved)
        .filter(({ id }) => moved.mappings.some((mapping) => mapping.id === id))
        .map((mapping) => ({ mapping: mapping.id, name: mappingName(rig, mapping) })),
      shortages: [
        ...shortagesOf(check, request, built, solution.choice, troubles),
        ...(request.kind === 'repair' ? heldErrors(check.context, request, troubles) : []),
        ...(request.kind === 'fill' || request.kind === 'avoid'
          ? heldBack(check.context, request, fixed)
          : []),
      ],
      free: senders.length,
      score: solution.score,
      proven: solution.proven,
      bound: solution.bound,
      isLeast: solution.isLeast,
    }
  }
}
