import { printTag, type Channel } from '../../midi'
import type { Sender } from '../../addresses'
import {
  findGesture,
  gestureName,
  placeName,
  rigIndex,
  sentAddress,
  withKind,
  type ChannelMessage,
  type Id,
  type RigEdit,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import { clearFixes, followFixes, softenFix, teachFixes, withdrawFixes } from './mapping-fixes'
import { freeAddresses, type FreeAddresses, type Taken } from './free-address'

const MOST_MOVES = 3

/** Numbers that are never moved unasked: pinned, spans, programs, and what a destination's own chart fixes. */
function canMove({ purposes }: CheckContext, sender: Sender): boolean {
  if (sender.pinned) return false
  const { message } = sender
  if (message.kind !== 'cc' && message.kind !== 'cc14' && message.kind !== 'note') return false
  if (message.kind === 'note' && message.keys.kind !== 'one') return false
  return !purposes(sender).some(({ expected }) => expected?.by === 'chart')
}

const learnedBy = ({ purposes }: CheckContext, senders: readonly Sender[]): number =>
  senders.reduce(
    (sum, sender) => sum + purposes(sender).filter(({ expected }) => expected?.by === 'learning').length,
    0,
  )

function nameOf({ rig }: CheckContext, sender: Sender): string {
  const found = findGesture(rig, sender.gesture)
  return found ? gestureName(found.control, found.gesture) : 'this control'
}

function sentTag({ rig }: CheckContext, sender: Sender, message: ChannelMessage): string {
  const home = rigIndex(rig).controllers.get(sender.place.controller)?.homeChannel ?? 1
  const address = sentAddress(message, home)
  return address === null ? 'a free number' : printTag(address)
}

function moveFix(context: CheckContext, free: FreeAddresses, movers: readonly Sender[]): Fix | null {
  const taken: Taken = new Set()
  const edits: RigEdit[] = []
  const tags: string[] = []
  for (const sender of movers) {
    const message = free.nearest(sender, taken)
    if (!message) return null
    edits.push({ type: 'message', at: sender.place, index: sender.messageIndex, message })
    tags.push(sentTag(context, sender, message))
  }
  const [first] = movers
  if (!first) return null
  const label =
    movers.length === 1
      ? `Move ${nameOf(context, first)} to ${tags[0]}`
      : `Move ${nameOf(context, first)} and ${movers.length - 1} more to ${tags[0]} and after`
  return { id: `move-${tags.join('-')}`, kind: 'move', label, edits }
}

function moveFixes(context: CheckContext, { cures }: Draft): Fix[] {
  const free = freeAddresses(context.rig, context.occupancy)
  return cures.moves
    .filter((movers) => movers.length > 0 && movers.every((sender) => canMove(context, sender)))
    .map((movers) => ({ movers, cost: learnedBy(context, movers) }))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST_MOVES)
    .flatMap(({ movers }) => moveFix(context, free, movers) ?? [])
}

function shareFix({ rig }: CheckContext, draft: Draft): Fix | null {
  const gestures = [...new Set(draft.senders.map((sender) => sender.gesture))].sort()
  if (!draft.cures.share || gestures.length < 2) return null
  const taken = new Set(rig.accords.map((accord) => accord.id))
  let number = rig.accords.length + 1
  while (taken.has(`accord-${number}`)) number++
  return {
    id: 'share',
    kind: 'share',
    label: 'Share on purpose',
    edits: [
      {
        type: 'accord-add',
        accord: {
          id: `accord-${number}`,
          name: `Sharing ${draft.addresses.join(', ')}`.slice(0, 120),
          reason: '',
          gestures,
        },
      },
    ],
  }
}

/** The one channel on which these senders serve a destination, or null if there are several or none. */
function servedChannel(
  { purposes }: CheckContext,
  senders: readonly Sender[],
  destination: Id,
): Channel | null {
  const served = senders.filter((sender) =>
    purposes(sender).some((purpose) => purpose.destination.id === destination),
  )
  const channels = [...new Set(served.map((sender) => sender.channel))]
  return channels.length === 1 ? (channels[0] ?? null) : null
}

/** Tell every destination that merges channels to hear only the one that its own chart or mappings use. */
function narrowFix(context: CheckContext, { cures, senders }: Draft): Fix | null {
  const { destinations } = rigIndex(context.rig)
  const told: string[] = []
  const edits: RigEdit[] = []
  for (const id of cures.narrow ?? []) {
    const destination = destinations.get(id)
    const channel = servedChannel(context, senders, id)
    if (!destination?.hears.settable || channel === null) return null
    told.push(`${destination.name} hear channel ${channel} only`)
    edits.push({
      type: 'hearing-set',
      destination: id,
      for: 'playing',
      hearing: { ...destination.hears.playing, channels: { kind: 'only', channels: [channel] } },
    })
  }
  if (edits.length === 0) return null
  return { id: 'narrow', kind: 'narrow', label: `Let ${told.join(' and ')}`, edits }
}

/** A mode number sent as a plain controller can say what it does. */
function rephraseFix({ rig }: CheckContext, { cures, senders, severity }: Draft): Fix | null {
  const isModeNumber = senders.every(({ message }) => message.kind === 'cc' && Number(message.number) >= 120)
  if (severity !== 'error' || cures.moves.length === 0 || !isModeNumber) return null
  const edits = senders.flatMap((sender): RigEdit[] => {
    const found = findGesture(rig, sender.gesture)
    if (!found) return []
    const message = withKind(sender.message, 'mode', found.control.kind, found.gesture)
    return [{ type: 'message', at: sender.place, index: sender.messageIndex, message }]
  })
  return { id: 'rephrase', kind: 'rephrase', label: 'Send it as a channel mode message', edits }
}

/** In rigs larger than this (messages on channels) only cures that touch mappings are tried out. */
const TRIED_UP_TO = 20_000
const TRIED: ReadonlySet<Fix['kind']> = new Set([
  'clear',
  'teach',
  'follow',
  'soften',
  'withdraw',
  'expect',
  'feed-back',
])

/**
 * Every cure that can be offered for what a rule reports. Each removes the finding and makes no new
 * error; `holds` tells whether a change does so.
 */
export function fixesFor(
  context: CheckContext,
  rule: string,
  draft: Draft,
  holds: (edits: readonly RigEdit[]) => boolean,
): Fix[] {
  const isSmall = context.occupancy.senders.length <= TRIED_UP_TO
  const isTried = ({ kind }: Fix): boolean => isSmall || TRIED.has(kind)
  const offers = [
    ...(draft.cures.ready ?? []),
    ...teachFixes(context, draft),
    ...followFixes(context, draft),
    ...softenFix(context, draft),
    ...clearFixes(context, draft),
    ...withdrawFixes(context, draft),
    ...moveFixes(context, draft),
    narrowFix(context, draft),
    rule === 'reserved' ? rephraseFix(context, draft) : null,
    shareFix(context, draft),
  ]
  return toldApart(
    context,
    offers.filter((fix) => fix !== null).filter((fix) => !isTried(fix) || holds(fix.edits)),
  )
}

/** Cures of the same name are told apart by the layer they change. */
function toldApart({ rig }: CheckContext, fixes: readonly Fix[]): Fix[] {
  return fixes.map((fix) => {
    const [edit] = fix.edits
    const isTwin = fixes.some((other) => other !== fix && other.label === fix.label)
    if (!isTwin || edit?.type !== 'message') return fix
    const { layer } = placeName(rig, edit.at)
    return layer === null
      ? fix
      : { ...fix, id: `${fix.id}-${edit.at.layer}`, label: `${fix.label} in ${layer}` }
  })
}
