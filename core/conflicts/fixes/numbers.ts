import { printTag } from '../../midi'
import type { Sender } from '../../addresses'
import {
  findGesture,
  freeId,
  gestureName,
  rigIndex,
  sentAddress,
  withKind,
  type ChannelMessage,
  type GestureRef,
  type Id,
  type RigEdit,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Fix, Movers } from '../finding'
import { freeAddresses, type FreeAddresses, type Taken } from '../free'
import { addressWords } from '../words'
import type { Address, Channel } from '../../midi'

const MOST_MOVES = 3

/** Numbers that are never moved unasked: pinned, spans, programs, and what a destination's own chart fixes. */
function canMove({ purposes }: CheckContext, sender: Sender): boolean {
  if (sender.pinned) return false
  const { message } = sender
  if (message.kind !== 'cc' && message.kind !== 'cc14' && message.kind !== 'note') return false
  if (message.kind === 'note' && message.keys.kind !== 'one') return false
  return !purposes(sender).some(({ listening }) => listening?.by === 'chart')
}

const learnedBy = ({ purposes }: CheckContext, senders: readonly Sender[]): number =>
  senders.reduce(
    (sum, sender) => sum + purposes(sender).filter(({ listening }) => listening?.by === 'learning').length,
    0,
  )

function nameOf({ rig }: CheckContext, sender: Sender): string {
  const found = findGesture(rig, sender.gesture)
  return found ? gestureName(found.control, found.gesture) : 'this control'
}

function sentTag(sender: Sender, message: ChannelMessage): string {
  const address = sentAddress(message, sender.home)
  return address === null ? 'a free number' : printTag(address)
}

function moveFix(context: CheckContext, free: FreeAddresses, movers: Movers): Fix | null {
  const taken: Taken = new Set()
  const edits: RigEdit[] = []
  const tags: string[] = []
  for (const sender of movers) {
    const message = free.nearest(sender, taken)
    if (!message) return null
    edits.push({ type: 'message', at: sender.place, index: sender.messageIndex, message })
    tags.push(sentTag(sender, message))
  }
  const [first] = movers
  if (!first) return null
  const label =
    movers.length === 1
      ? `Move ${nameOf(context, first)} to ${tags[0]}`
      : `Move ${nameOf(context, first)} and ${movers.length - 1} more to ${tags[0]} and after`
  return { id: `move-${tags.join('-')}`, kind: 'move', label, edits }
}

/** Move who can be moved to the nearest free numbers: the alternatives that leave least to be taught again. */
export function moveFixes(context: CheckContext, moves: readonly Movers[]): Fix[] {
  const free = freeAddresses(context.rig, context.occupancy)
  return moves
    .filter((movers) => movers.length > 0 && movers.every((sender) => canMove(context, sender)))
    .map((movers) => ({ movers, cost: learnedBy(context, movers) }))
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST_MOVES)
    .flatMap(({ movers }) => moveFix(context, free, movers) ?? [])
}

/** Declare that these gestures share on purpose. */
export function shareFix(
  { rig }: CheckContext,
  gestures: readonly GestureRef[],
  addresses: readonly Address[],
): Fix[] {
  const each = [...new Set(gestures)].sort()
  if (each.length < 2) return []
  return [
    {
      id: 'share',
      kind: 'share',
      label: 'Share on purpose',
      edits: [
        {
          type: 'accord-add',
          accord: {
            id: freeId('accord', rig.accords),
            name: `Sharing ${addressWords(addresses)}`.slice(0, 120),
            reason: '',
            gestures: each,
          },
        },
      ],
    },
  ]
}

/** The gestures of senders, in order. */
export const gesturesOf = (senders: readonly Sender[]): GestureRef[] => senders.map(({ gesture }) => gesture)

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
export function narrowFix(context: CheckContext, ids: readonly Id[], senders: readonly Sender[]): Fix[] {
  const { destinations } = rigIndex(context.rig)
  const told: string[] = []
  const edits: RigEdit[] = []
  for (const id of ids) {
    const destination = destinations.get(id)
    const channel = servedChannel(context, senders, id)
    if (!destination?.hears.settable || channel === null) return []
    told.push(`${destination.name} hear channel ${channel} only`)
    edits.push({
      type: 'hearing-set',
      destination: id,
      for: 'playing',
      hearing: { ...destination.hears.playing, channels: { kind: 'only', channels: [channel] } },
    })
  }
  return edits.length === 0
    ? []
    : [{ id: 'narrow', kind: 'narrow', label: `Let ${told.join(' and ')}`, edits }]
}

/** Let what sends a mode number as a plain controller say what it does. */
export function rephraseFix({ rig }: CheckContext, senders: readonly Sender[]): Fix[] {
  const edits = senders.flatMap((sender): RigEdit[] => {
    const found = findGesture(rig, sender.gesture)
    const { message } = sender
    if (!found || message.kind !== 'cc' || message.number === 'wanted' || message.number < 120) return []
    return [
      {
        type: 'message',
        at: sender.place,
        index: sender.messageIndex,
        message: withKind(message, 'channelMode', found.control.kind, found.gesture),
      },
    ]
  })
  return edits.length < senders.length
    ? []
    : [{ id: 'rephrase', kind: 'rephrase', label: 'Send it as a channel mode message', edits }]
}
