import { CHANNELS } from '../midi'
import type { Sender } from '../addresses'
import {
  contextAfter,
  findingPlace,
  placeWords,
  preferencesAt,
  recheckWith,
  type Apply,
  type Check,
} from '../conflicts'
import { placeKey, type RigEdit } from '../rig'
import { hasPlace, problemBuilder } from './build-problem'
import { askedSenders, troublesOf, type Trouble } from './free'
import { whyFixed } from './movable'
import { planned, type Planned } from './planned'
import { isOneForEach, type AllocateRequest } from './request'

/** What may leave fewer: another request, another rig, or one that is pinned and goes out of their way. */
type Help = { words: string } & (
  OtherRequest | { kind: 'edits'; edits: readonly RigEdit[] } | { kind: 'unpinned'; sender: Sender }
)

interface OtherRequest {
  kind: 'request'
  request: AllocateRequest
  /** So many times as many places has the problem then, about. */
  grows: number
}

/** So many ways to help are tried, on problems of so many places at most; each is planned in a hurry. */
const MOST_TRIED = 8
const MOST_PLACES = 150_000
/** So many places are looked at in all tries together: whoever is left beyond that is told no help. */
const MOST_PLACES_IN_ALL = 1_000_000

/** What tells helps apart: two house rules may avoid the same numbers, for different kinds. */
const keyOf = (help: Help): string => `${help.words} ${JSON.stringify('edits' in help ? help.edits : [])}`

/** What is worked out of a help, once for each. */
function onceForEach<T>(work: (help: Help) => T): (help: Help) => T {
  const known = new Map<string, { made: T }>()
  return (help) => {
    const key = keyOf(help)
    const found = known.get(key) ?? { made: work(help) }
    known.set(key, found)
    return found.made
  }
}

const isAnyChannel = ({ policy }: AllocateRequest): boolean =>
  policy.kind === 'keep-if-room' || (policy.kind === 'among' && policy.channels.length === 16)

/**
 * What would help those who are left, in a few words each. Nothing is named that was not tried: with it, fewer
 * are left, and fewer of them.
 *
 * @param after The rig once the plan is made.
 */
export function helpsOf(
  check: Check,
  after: Check,
  request: AllocateRequest,
  { built, solution }: Planned,
  troubles: readonly Trouble[],
  apply: Apply,
): (left: readonly Sender[]) => string[] {
  /** The rig with a help, looked at once for all who are left. */
  const before = onceForEach((help) =>
    help.kind === 'edits' ? recheckWith(check, apply(check.context.rig, help.edits), apply) : check,
  )
  const contextAfterwards = onceForEach((help) =>
    help.kind === 'edits' ? contextAfter(after.context, apply(after.context.rig, help.edits)) : after.context,
  )
  const requestOf = (help: Help): AllocateRequest => (help.kind === 'request' ? help.request : request)
  /** Does it help them where everybody else is where the plan puts them? That is soon seen, and mostly so. */
  const helpsAfter = (help: Help, left: readonly Sender[]): boolean => {
    const asked = requestOf(help)
    const aside = help.kind === 'unpinned' ? help.sender : null
    const unpinned = aside && placeKey(aside.place)
    // Who is to be together with others cannot be looked at alone.
    if (isOneForEach(asked)) return false
    const context = contextAfterwards(help)
    const keys = new Set(left.map(({ key }) => key))
    const mayGo = ({ key }: Sender): boolean => (aside === null ? keys.has(key) : key === aside.key)
    const canGo = context.occupancy.senders.some(
      (sender) =>
        mayGo(sender) &&
        whyFixed(context, asked, sender, unpinned) === null &&
        hasPlace(context, asked, sender),
    )
    if (!canGo || aside === null) return canGo
    // Others may be in their way too.
    const others = [...built.free].flatMap(({ key }) => (keys.has(key) ? [] : [key]))
    const struck = [...asked.struck, ...others]
    // No rule looks at pins, so what is wrong afterwards is wrong without one too.
    return leftIn(after, { ...asked, struck }, unpinned).size < left.length
  }
  const places = built.senders.reduce((sum, _, item) => sum + built.roomFor(item).length, 0)
  let placesLeft = MOST_PLACES_IN_ALL
  /** May another problem be looked at? */
  const spend = (grows: number): boolean => (placesLeft -= grows * places) >= 0
  const leftWith = onceForEach((help) => leftIn(before(help), requestOf(help)))
  const tried = new Set<string>()
  const now = built.senders.filter((_, item) => built.isLeft(item, solution.choice[item] ?? 0)).length
  const helpsAnew = (help: Help, left: readonly Sender[]): boolean => {
    const grows = help.kind === 'request' ? help.grows : 1
    if (help.kind === 'unpinned' || grows * places > MOST_PLACES) return false
    if (!tried.has(keyOf(help)) && !spend(grows)) return false
    tried.add(keyOf(help))
    const then = leftWith(help)
    return then.size < now && left.filter(({ key }) => then.has(key)).length < left.length
  }
  return (left) =>
    waysToHelp(check, request, troubles, left)
      .slice(0, MOST_TRIED)
      .filter((help) => (spend(1) && helpsAfter(help, left)) || helpsAnew(help, left))
      .map(({ words }) => words)
}

/** Who is left by a plan made in a hurry, by key; the pin of one place (`placeKey`) may not count. */
function leftIn(
  check: Pick<Check, 'context' | 'reports' | 'asides'>,
  request: AllocateRequest,
  unpinned: string | null = null,
): ReadonlySet<string> {
  const { context } = check
  const troubles = troublesOf(check)
  const { free } = askedSenders(check, request, troubles, unpinned)
  const { built, solution } = planned(
    context,
    request,
    problemBuilder(context, request, free)(troubles),
    new Set(),
    { isHasty: true, needsProof: false },
  )
  return new Set(
    built.senders.flatMap(({ key }, item) => (built.isLeft(item, solution.choice[item] ?? 0) ? [key] : [])),
  )
}

function waysToHelp(
  { context }: Check,
  request: AllocateRequest,
  troubles: readonly Trouble[],
  left: readonly Sender[],
): Help[] {
  const { rig } = context
  const keys = new Set(left.map(({ key }) => key))
  const channels: Help[] = isAnyChannel(request)
    ? []
    : [
        {
          kind: 'request',
          words: isOneForEach(request) ? 'let channels stay as they are' : 'let them use any channel',
          grows: isOneForEach(request) ? 1 : CHANNELS.length,
          request: { ...request, policy: { kind: 'keep-if-room' } },
        },
      ]
  const layers: Help[] = request.shareLayers
    ? []
    : [{ kind: 'request', words: 'let layers share', grows: 1, request: { ...request, shareLayers: true } }]
  const pinned = troubles
    .filter(({ senders }) => senders.some(({ key }) => keys.has(key)))
    .flatMap(({ senders }) => senders)
    .filter((sender) => sender.pinned && whyFixed(context, request, sender) !== null)
  const pins = [...new Map(pinned.map((sender) => [sender.key, sender])).values()].map((sender): Help => ({
    words: `unpin ${placeWords(rig, [findingPlace(sender)])}`,
    kind: 'unpinned',
    sender,
  }))
  const houseRules = [
    ...new Set(left.flatMap(({ place, message }) => preferencesAt(rig, [], place, message.kind))),
  ]
    .filter(({ kind }) => kind === 'avoid')
    .flatMap((rule): Help[] => {
      const numbers = rule.low === rule.high ? String(rule.low) : `${rule.low}–${rule.high}`
      const kept = rig.houseRules.filter((each) => each !== rule)
      return kept.length === rig.houseRules.length
        ? []
        : [
            {
              words: `loosen the house rule that avoids ${numbers}`,
              kind: 'edits',
              edits: [{ type: 'rig-set', set: { houseRules: kept } }],
            },
          ]
    })
  return [...channels, ...layers, ...pins, ...houseRules]
}
