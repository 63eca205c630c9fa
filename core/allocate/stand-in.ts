import { printTag } from '../midi'
import { mappingName, mappingState, unheardAfter } from '../mappings'
import { listed, newErrors, recheckWith, type Apply, type Check } from '../conflicts'
import {
  gestureName,
  gestureRef,
  placeKey,
  rigIndex,
  sentAddress,
  type Controller,
  type Rig,
  type RigEdit,
} from '../rig'
import type { FirstCure } from './cures'
import type { Plan, PlannedChange, Shortage } from './plan'
import type { AllocateRequest } from './request'
import { silencedBy } from './silenced'
import { noScore, TERMS } from './solver/problem'
import {
  couldTake,
  matched,
  partnersOf,
  wantedOf,
  type Pair,
  type Partner,
  type Partners,
  type Wanted,
} from './stand-in-match'

type StandIn = Extract<AllocateRequest, { kind: 'stand-in' }>

/** So often it is matched anew without the pairs that brought an error; then who still brings one is left out. */
const ATTEMPTS = 6

/** What is not there cannot send: who is stood in for is put away first. */
function putAway(missing: Controller, struck: readonly string[]): FirstCure[] {
  const key = `away ${missing.id}`
  if (!missing.inUse || struck.includes(key)) return []
  return [
    {
      key,
      finding: null,
      label: `Put ${missing.name} away`,
      reason: `${missing.name} is in use: it and what stands in for it would send the same.`,
      edits: [{ type: 'controller-set', controller: missing.id, set: { inUse: false } }],
    },
  ]
}

const keyOf = ({ partner }: Pair): string => `${placeKey(partner.place)}#0`

function changeOf(rig: Rig, missing: Controller, borrowed: Controller, pair: Pair): PlannedChange {
  const { wanted, partner, message } = pair
  const { address } = wanted
  const after = sentAddress(message, borrowed.homeChannel) ?? address
  const channel = after.scope === 'channel' && typeof after.channel === 'number' ? after.channel : 1
  const names = wanted.mappings.map((mapping) => mappingName(rig, mapping)).join(', ')
  return {
    key: keyOf(pair),
    at: { ...partner.place, message: 0 },
    from: partner.sender?.address ?? null,
    to: address,
    channel,
    reason: `It stands in for ${gestureName(wanted.control, wanted.gesture)} (${missing.name}), which ${names} learned there.`,
    edit: { type: 'message', at: partner.place, index: 0, message },
  }
}

const joinsOf = ({ wanted, partner }: Pair): RigEdit[] =>
  wanted.mappings.map(({ id }) => ({
    type: 'mapping-set',
    mapping: id,
    set: { gesture: gestureRef(partner.place.controller, partner.place.gesture) },
  }))

/** What would help someone who has no partner. */
function helpFor(wanted: Wanted, { pinned, serving }: Partners): string {
  const few = (partners: readonly Partner[]): string | null => {
    const [first, ...more] = partners.filter((each) => couldTake(wanted, each))
    if (!first) return null
    const name = gestureName(first.control, first.gesture)
    return more.length === 0 ? name : `${name} or one of ${more.length} more`
  }
  const [unpin, giveUp] = [few(pinned), few(serving)]
  const helps = [
    ...(unpin === null ? [] : [`unpin ${unpin}`]),
    ...(giveUp === null ? [] : [`select ${giveUp} to give up what it moves`]),
    'borrow a controller that has more',
  ]
  return `To help: ${helps.join(', or ')}.`
}

/** So many are named one by one of those who have no partner. */
const MOST_NAMED = 4

/** Who has no partner, gathered by what would help. */
function shortagesOf(
  without: readonly Wanted[],
  partners: Partners,
  missing: Controller,
  borrowed: Controller,
): Shortage[] {
  const groups = new Map<string, Wanted[]>()
  for (const wanted of without) {
    const help = helpFor(wanted, partners)
    groups.set(help, [...(groups.get(help) ?? []), wanted])
  }
  return [...groups].map(([help, group]) => {
    const names = group
      .slice(0, MOST_NAMED)
      .map(({ control, gesture, address }) => `${gestureName(control, gesture)} at ${printTag(address)}`)
    const more = group.length - names.length
    const all = more > 0 ? [...names, `${more} more`] : names
    return {
      message: `${listed(all)} (${missing.name}): no counterpart is left on ${borrowed.name}.`,
      help,
      at: [],
    }
  })
}

/**
 * A borrowed controller takes over the addresses at which destinations learned a missing one, each by a gesture that is
 * done alike, so that as little as can be has to be taught again: an assignment, by what is lost, kind, behaviour,
 * range and place. What is pinned, fixed by a chart or chooses layers stays.
 */
export function standIn(check: Check, request: StandIn, apply: Apply): Plan {
  const { controllers } = rigIndex(check.context.rig)
  const [borrowed, missing] = [controllers.get(request.controller), controllers.get(request.for)]
  const wanted = missing ? wantedOf(check.context.rig, missing) : []
  const cures = missing ? putAway(missing, request.struck) : []
  const base =
    cures.length === 0
      ? check
      : recheckWith(
          check,
          apply(
            check.context.rig,
            cures.flatMap(({ edits }) => edits),
          ),
          apply,
        )
  const { rig } = base.context
  const partners = borrowed
    ? partnersOf(base.context, request, borrowed)
    : { open: [], pinned: [], serving: [] }
  const barred = new Set<string>()
  const idOf = ({ control, gesture, address }: Wanted): string =>
    `${control.id}.${gesture} ${printTag(address)}`
  for (let attempt = 1; ; attempt++) {
    const pairs = borrowed
      ? matched(rig, borrowed, wanted, partners.open, (want, { place }) =>
          [idOf(want), `${idOf(want)} ${placeKey(place)}`].some((key) => barred.has(key)),
        )
      : []
    const made = pairs.filter((pair) => !request.struck.includes(keyOf(pair)))
    const changes = borrowed && missing ? made.map((pair) => changeOf(rig, missing, borrowed, pair)) : []
    const edits = [...changes.map(({ edit }) => edit), ...made.flatMap(joinsOf)]
    const moved = apply(rig, edits)
    const after = recheckWith(base, moved, apply)
    const errors = newErrors(base, after)
    const places = new Set(errors.flatMap(({ at }) => at.map(placeKey)))
    const partOf = made.filter(({ partner }) => places.has(placeKey(partner.place)))
    // Where an error is at nobody's place, any of them may bring it.
    const faults = errors.length > 0 && partOf.length === 0 ? made : partOf
    if (faults.length > 0) {
      for (const { wanted: want, partner } of faults)
        barred.add(attempt < ATTEMPTS ? `${idOf(want)} ${placeKey(partner.place)}` : idOf(want))
      continue
    }
    const partnered = new Set(pairs.map((pair) => pair.wanted))
    const without = wanted.filter((want) => !partnered.has(want))
    const stale = unheardAfter(rig, moved)
    const concerned = new Set([...wanted.flatMap(({ mappings }) => mappings), ...stale].map(({ id }) => id))
    const score = {
      ...noScore(),
      unmet: without.length,
      stale: stale.length,
      warnings: moved.mappings.filter(
        (mapping) => concerned.has(mapping.id) && mappingState(moved, mapping).agreement !== 'agrees',
      ).length,
      changed: changes.length,
    }
    // As many as can be find a partner; what comes after is weighed pair by pair, not in these terms.
    const certain = barred.size === 0 ? ['errors', 'unmet'] : ['errors']
    const open = TERMS.findIndex((term) => score[term] > 0 && !certain.includes(term))
    const term = TERMS[open]
    const left = new Set(after.findings.map(({ id }) => id))
    const known = new Set(check.findings.map(({ id }) => id))
    return {
      cures,
      changes,
      edits: [...cures.flatMap((cure) => cure.edits), ...edits],
      resolves: check.findings.filter(({ id }) => !left.has(id)),
      leaves: after.findings.filter(({ id, severity }) => severity === 'error' && !known.has(id)),
      stale: stale.map((mapping) => ({ mapping: mapping.id, name: mappingName(rig, mapping) })),
      silenced: silencedBy(rig, moved, changes, new Set(stale.map(({ id }) => id))),
      shortages: borrowed && missing ? shortagesOf(without, partners, missing, borrowed) : [],
      free: partners.open.length,
      score,
      proven: open < 0 ? TERMS : TERMS.slice(0, open),
      bound: term === undefined ? null : { term, value: 0 },
      isLeast: false,
    }
  }
}
