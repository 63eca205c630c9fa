import type { Sender } from '../../addresses'
import { hitsOn, mappingName, passagesInForce, type ResolvedMapping } from '../../mappings'
import { findGesture, gestureName, rigIndex, splitGestureRef, type Mapping, type Rig } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { clearFixes, teachFixes } from '../fixes/mappings'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import { printTag } from '../../midi'
import { destinationWords, placeCount, senderWords, shortListed, verb } from '../words'

/** Whose an old mapping is: a control that is gone or put away. Null for one that is in use. */
function formerOwner(rig: Rig, { gesture }: Mapping): string | null {
  if (gesture === null) return 'a control that is gone'
  const owner = rigIndex(rig).controllers.get(splitGestureRef(gesture).controller)
  if (!owner) return 'a controller that is gone'
  return owner.inUse ? null : `${owner.name}, which is put away`
}

/** The control that a mapping belongs to, in words. */
function ownerWords(rig: Rig, { gesture }: Mapping): string {
  const found = gesture === null ? null : findGesture(rig, gesture)
  return found ? `${gestureName(found.control, found.gesture)} (${found.controller.name})` : 'another control'
}

/** Can a sender set a mapping off while it is in force? */
function canSetOff({ rig, liveness }: CheckContext, sender: Sender, mapping: Mapping): boolean {
  const shown = liveness.passages(sender)
  const inForce = passagesInForce(rig, mapping)
  return shown === null || inForce === null || [...shown].some((index) => inForce.has(index))
}

/** Who sets a mapping off that is not its own, and is told by no other rule. */
function strangersOf(context: CheckContext, resolved: ResolvedMapping): Sender[] {
  const { occupancy, purposes, live, excused } = context
  const { mapping, destination, parameter, meeting, listening } = resolved
  const senders = new Map<string, Sender>()
  for (const { sender } of hitsOn(occupancy, resolved)) {
    if (sender.gesture === mapping.gesture || senders.has(sender.key)) continue
    const own = purposes(sender).filter((purpose) => purpose.destination === destination)
    if (own.some((purpose) => purpose.parameter === parameter)) continue
    if (!canSetOff(context, sender, mapping)) continue
    if (mapping.gesture !== null && excused(sender.gesture, mapping.gesture)) continue
    // What acts together with the owner is a collision; what moves its own parameter too, layers that share.
    if (meeting.some((owner) => live(owner, sender))) continue
    const isShared = own.some(
      (purpose) => purpose.listening !== null && context.acting([], [mapping, purpose.mapping]),
    )
    if (meeting.length > 0 && isShared) continue
    if (listening?.by === 'chart' && own.length > 0) continue
    senders.set(sender.key, sender)
  }
  return [...senders.values()]
}

function draftOf(context: CheckContext, resolved: ResolvedMapping, who: readonly Sender[]): Draft | null {
  const { rig } = context
  const { mapping, destination, listening } = resolved
  if (!listening) return null
  const former = formerOwner(rig, mapping)
  const tag = printTag(listening.address)
  const name = mappingName(rig, mapping)
  const sets = verb(placeCount(who), 'sets off', 'set off')
  const moves = verb(placeCount(who), 'moves', 'move')
  const owner = former === null ? null : splitOwner(mapping)
  return {
    severity: 'error',
    message:
      former === null
        ? `${senderWords(rig, who)} ${moves} ${name} at ${tag}, which belongs to ${ownerWords(rig, mapping)}.`
        : `${senderWords(rig, who)} ${sets} ${name}, an old mapping at ${tag} of ${former}.`,
    senders: who,
    addresses: [listening.address],
    destinations: [destination.id],
    about: mapping.id,
    ...(owner === null ? {} : { cause: `${owner} ${destination.id}` }),
    ...(mapping.gesture === null
      ? {}
      : { between: [...new Set([mapping.gesture, ...who.map(({ gesture }) => gesture)])] }),
    moves: [who],
    setsOff: mapping.id,
    cures: () => [
      ...(former === null ? teachFixes(context, [resolved]) : clearFixes(context, [mapping])),
      ...moveFixes(context, [who]),
    ],
  }
}

/** The controller that an old mapping was learned from, where that is still on record. */
const splitOwner = ({ gesture }: Mapping): string | null =>
  gesture === null ? null : splitGestureRef(gesture).controller

/** A mapping is set off by a control that is not its own: an old one, or one whose owner does not send there now. */
export const ghost: Rule = {
  id: 'ghost',
  title: 'Old mapping set off',
  topic: 'lessons',
  reach: 'mapping',
  byNumbers: true,
  first: 'clear',
  safe: ['clear', 'move'],
  excused: true,
  find: (context) =>
    context.resolved().flatMap((resolved): Draft[] => {
      const { listening, mapping, parameter } = resolved
      if (!listening) return []
      // By its own chart a parameter listens whether anything is joined to it or not, and notes are played from anywhere.
      if (listening.by === 'chart' && (mapping.gesture === null || parameter.kind === 'note')) return []
      if (listening.by === 'chart' && formerOwner(context.rig, mapping) !== null) return []
      const who = strangersOf(context, resolved)
      const draft = who.length === 0 ? null : draftOf(context, resolved, who)
      return draft ? [draft] : []
    }),
  together: (context, drafts) => {
    const { rig } = context
    const senders = [...new Set(drafts.flatMap((draft) => draft.senders))]
    const destinations = drafts[0]?.destinations ?? []
    const ids = new Set(drafts.map(({ about }) => about))
    const old = rig.mappings.filter(({ id }) => ids.has(id))
    const [first] = old
    const former = first ? formerOwner(rig, first) : ''
    return {
      severity: 'error',
      message: `${senderWords(rig, senders)} set off ${old.length} old mappings of ${former} at ${destinationWords(rig, destinations)}: ${shortListed(old.map((mapping) => mappingName(rig, mapping)))}.`,
      senders,
      addresses: drafts.flatMap((draft) => draft.addresses),
      destinations,
      about: drafts[0]?.cause ?? '',
      cures: () => {
        const clear = clearFixes(context, old).flatMap(({ edits }) => edits)
        return [
          { id: 'clear-all', kind: 'clear', label: `Clear the ${old.length} old mappings`, edits: clear },
          ...moveFixes(context, [senders]),
        ]
      },
    }
  },
}
