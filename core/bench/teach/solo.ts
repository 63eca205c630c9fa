import { travelOf, type SentMessage } from '../../midi'
import { mappingParameter } from '../../mappings'
import { assignmentsAt, findGesture, placeRef, rigIndex, type Mapping, type Place, type Rig } from '../../rig'
import type { Hand } from '../hands'
import { clicksOver } from '../rehearsal/range'

/** One thing that is done to send a gesture alone, and how long until the next, in ms. */
export interface SoloStep {
  hand: Hand
  ms: number
}

/** A sweep is made in so many moves, each so long, in ms: slowly enough for a program to follow. */
const MOVES = 16
const MOVE_MS = 40
const HELD_MS = 120
const APART_MS = 300
/** An encoder is turned so far at most: to learn it, a program needs no more. */
const MOST_CLICKS = 48

const sentAt = (rig: Rig, place: Place): SentMessage[] => {
  const controller = rigIndex(rig).controllers.get(place.controller)
  const messages = (controller && assignmentsAt(controller, place)?.[place.gesture]?.messages) ?? []
  return messages.filter((message): message is SentMessage => message.kind !== 'off')
}

/**
 * Everything that a hand does to send one gesture alone, for a destination to learn it: from its low end to its high one and
 * back, a press and release, or clicks. No other gesture of the control takes part: of a surface one axis, of a pad not the pressure,
 * and nothing is touched. Empty where the gesture sends nothing there.
 */
export function soloSteps(rig: Rig, place: Place, mapping: Mapping): SoloStep[] {
  const found = findGesture(rig, placeRef(place))
  const target = mappingParameter(rig, mapping)
  const messages = sentAt(rig, place)
  if (!found || !target || found.control.silent || messages.length === 0) return []
  const { gesture } = place
  const travels = messages.map((message) => travelOf(message, found.control))
  const clicks = Math.min(
    MOST_CLICKS,
    Math.max(0, ...travels.map((travel) => clicksOver([{ mapping, ...target }], travel))),
  )
  if (clicks > 0)
    return [1, -1].flatMap((way) =>
      Array.from({ length: clicks }, (): SoloStep => ({
        hand: { kind: 'click', gesture, by: way },
        ms: MOVE_MS / 2,
      })),
    )
  const isSwept = messages.some(({ moment }, index) => moment === 'move' && travels[index]?.kind === 'sweep')
  if (isSwept) {
    const to = (share: number): SoloStep => ({
      hand: { kind: 'move', gesture, to: share, overMs: MOVE_MS },
      ms: MOVE_MS,
    })
    const shares = Array.from({ length: MOVES + 1 }, (_, step) => step / MOVES)
    // From the low end, wherever it stood: a control at its high end would have nothing to say.
    return [
      to(0),
      ...shares.map(to),
      ...shares.toReversed().map(to),
      ...(found.control.restsInCentre ? [to(0.5)] : []),
    ]
  }
  const key = mapping.key ?? keyOf(messages)
  const isLong = messages.some(({ moment }) => moment === 'long-press')
  return [
    { hand: { kind: 'press', gesture, key, force: 0.8 }, ms: isLong ? APART_MS * 2 : HELD_MS },
    { hand: { kind: 'wait' }, ms: 0 },
    { hand: { kind: 'let-go', gesture, key }, ms: APART_MS },
  ]
}

/** A key that a keyboard has: its lowest. */
const keyOf = (messages: readonly SentMessage[]): number => {
  const [span] = messages.flatMap((message) =>
    'keys' in message && message.keys.kind !== 'one' ? [message.keys] : [],
  )
  return span?.low ?? 0
}
