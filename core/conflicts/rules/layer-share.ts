import { mappingName, passagesInForce, type ResolvedMapping } from '../../mappings'
import { printTag, printTarget, sameAddress } from '../../midi'
import type { Sender } from '../../addresses'
import { rigIndex } from '../../rig'
import type { CheckContext } from '../context'
import { allWhoMeet, type Draft } from '../finding'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import { placeCount, listed, senderWords, verb } from '../words'

/** Where a destination listens, as a text: without channel where it takes all channels for one. */
function addressKey({ rig }: CheckContext, { destination, listening }: ResolvedMapping): string | null {
  if (!listening) return null
  const { address } = listening
  const merges = rigIndex(rig).destinations.get(destination.id)?.hears.playing.channels.kind === 'merged'
  return `${destination.id} ${merges ? printTarget(address.target) : printTag(address)}`
}

/** Can a sender show while both mappings are in force? */
function canMoveBoth(
  { rig, liveness }: CheckContext,
  sender: Sender,
  a: ResolvedMapping,
  b: ResolvedMapping,
): boolean {
  const shown = liveness.passages(sender)
  const inForce = passagesInForce(rig, a.mapping, b.mapping)
  return shown === null || inForce === null || [...shown].some((index) => inForce.has(index))
}

/** Senders of two mappings, two by two, that stand apart and of which each moves what the other is for. */
function apart(
  context: CheckContext,
  a: ResolvedMapping,
  b: ResolvedMapping,
): Array<readonly [Sender, Sender]> {
  if (a.parameter === b.parameter || !context.acting([], [a.mapping, b.mapping])) return []
  const found: Array<readonly [Sender, Sender]> = []
  for (const one of a.meeting)
    for (const other of b.meeting) {
      if (one === other || context.live(one, other)) continue
      if (one.gesture !== other.gesture && context.excused(one.gesture, other.gesture)) continue
      if (![one, other].some((sender) => canMoveBoth(context, sender, a, b))) continue
      found.push([one, other])
    }
  return found
}

/** One address in two layers or templates goes to two parameters in one scope: both move. */
export const layerShare: Rule = {
  id: 'layer-share',
  title: 'One address, two layers, two parameters',
  topic: 'layers',
  reach: 'mapping',
  byNumbers: true,
  safe: ['move'],
  excused: true,
  find: (context) => {
    const { rig } = context
    const groups = new Map<string, ResolvedMapping[]>()
    for (const resolved of context.resolved()) {
      const key = addressKey(context, resolved)
      if (key === null || resolved.meeting.length === 0) continue
      groups.set(key, [...(groups.get(key) ?? []), resolved])
    }
    return [...groups].flatMap(([about, group]): Draft[] => {
      const meetings: Array<readonly [Sender, Sender]> = []
      const moved = new Set<ResolvedMapping>()
      group.forEach((a, index) =>
        group.slice(index + 1).forEach((b) => {
          const found = apart(context, a, b)
          meetings.push(...found)
          if (found.length > 0) moved.add(a).add(b)
        }),
      )
      const [first] = moved
      if (!first?.listening) return []
      const who = [...new Set(meetings.flat())].toSorted((a, b) => a.order - b.order)
      const movers = allWhoMeet(who, meetings)
      const names = [...new Set([...moved].map(({ mapping }) => mappingName(rig, mapping)))]
      const tag = printTag(first.listening.address)
      const isOne = [...moved].every(
        ({ listening }) =>
          listening && first.listening && sameAddress(listening.address, first.listening.address),
      )
      return [
        {
          severity: 'error',
          message: `${senderWords(rig, who)} ${verb(placeCount(who), 'sends', 'send')} ${isOne ? tag : `what ${first.destination.name} takes for ${tag}`} in layers that are meant for different things, so ${listed(names)} move together.`,
          senders: who,
          addresses: [first.listening.address],
          destinations: [first.destination.id],
          about,
          moves: movers,
          meetings,
          cures: () => moveFixes(context, movers),
        },
      ]
    })
  },
}
