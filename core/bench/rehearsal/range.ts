import { keysFacet, travelOf, type SentMessage, type Travel } from '../../midi'
import { clickSize, clicksForSweep, mappedRange } from '../../values'
import type { Control, Destination, GestureKey, Mapping, Parameter } from '../../rig'
import { DOUBLE_PRESS_MS, LONG_PRESS_MS, READ_EVERY_MS } from '../controller'
import type { Hand } from '../hands'

/** One thing that a hand does while a gesture goes through its whole range. */
export interface Act {
  hand: Hand
  /** How long until the next one, in ms. */
  ms: number
  /** What has been done with it when this is over; null where it is on its way. */
  then: 'far' | 'back' | 'down' | 'up' | null
}

/** Over so many ms a control goes from end to end: every value of seven bits is read. */
const SWEEP_MS = 128 * READ_EVERY_MS
/** Two presses that are not to be one double press are so far apart, in ms. */
const APART_MS = DOUBLE_PRESS_MS * 2
const HELD_MS = 80
/** A sweep by clicks ends after so many, however many it would take. */
export const MOST_CLICKS = 20_000
const SPARE_CLICKS = 2

/** What a gesture is joined to, as far as it says how far it must be turned. */
export interface Joined {
  mapping: Mapping
  parameter: Parameter
  destination: Destination
}

/** Clicks from one end of all that it is joined to, to the other. */
export function clicksOver(joined: readonly Joined[], travel: Travel): number {
  if (travel.kind !== 'clicks') return 0
  const wanted = joined.map(({ mapping, parameter, destination }) => {
    const range = mappedRange(mapping, parameter)
    const click = clickSize(destination.stepRule, range, parameter)
    return click === null || click <= 0 ? 0 : clicksForSweep(range, click) + SPARE_CLICKS
  })
  return Math.min(MOST_CLICKS, Math.max(travel.clicksPerTurn ?? 1, ...wanted))
}

/** Keys that have to be struck: those that are joined each by itself, else the lowest and the highest. */
function keysOver(messages: readonly SentMessage[], joined: readonly Joined[]): number[] {
  const own = joined.flatMap(({ mapping: { key } }) => (key === null ? [] : [key]))
  const spans = messages.flatMap((message) =>
    'keys' in message && message.keys.kind !== 'one' ? [message.keys] : [],
  )
  if (spans.length === 0) return [0]
  const isWhole = joined.some(({ mapping: { key } }) => key === null) || joined.length === 0
  const ends = isWhole ? spans.flatMap(({ low, high }) => [low, high]) : []
  const heard = (key: number): boolean => spans.some((keys) => keysFacet.played(keys, key) !== null)
  return [...new Set([...own, ...ends])].filter(heard)
}

const isMoved = (travel: Travel): boolean => travel.kind === 'sweep'

/** Press and let go as often as it takes to hear all that a press can say. */
function presses(
  gesture: GestureKey,
  messages: readonly SentMessage[],
  travels: readonly Travel[],
  joined: readonly Joined[],
): Act[] {
  const times = Math.max(
    2,
    ...travels.map((travel) => (travel.kind === 'points' && travel.isKept ? travel.values.length : 2)),
  )
  const isDouble = messages.some(({ moment }) => moment === 'double-press')
  const isLong = messages.some(({ moment }) => moment === 'long-press')
  return keysOver(messages, joined).flatMap((key) =>
    Array.from({ length: times }, (_, time): Act[] => {
      const force = time % 2 === 0 ? 1 : 0
      const acts: Act[] = [
        {
          hand: { kind: 'press', gesture, key, force },
          ms: isLong && time === 0 && !isDouble ? LONG_PRESS_MS + HELD_MS : HELD_MS,
          then: 'down',
        },
        // Time goes on while it is held, so that a long press is one.
        { hand: { kind: 'wait' }, ms: 0, then: null },
        {
          hand: { kind: 'let-go', gesture, key },
          ms: isDouble && time === 0 ? HELD_MS : APART_MS,
          then: 'up',
        },
      ]
      return acts
    }).flat(),
  )
}

/** Everything that a hand does to take one gesture through its whole range: out to the far end, and back. */
export function actsOver(
  control: Control,
  gesture: GestureKey,
  messages: readonly SentMessage[],
  joined: readonly Joined[],
): Act[] {
  const travels = messages.map((message) => travelOf(message, control))
  const clicks = Math.max(0, ...travels.map((travel) => clicksOver(joined, travel)))
  if (clicks > 0)
    return [
      { hand: { kind: 'click', gesture, by: clicks }, ms: APART_MS, then: 'far' },
      { hand: { kind: 'click', gesture, by: -clicks }, ms: APART_MS, then: 'back' },
    ]
  if (messages.some(({ moment }, index) => moment === 'move' && travels[index] && isMoved(travels[index]))) {
    const rest = control.restsInCentre ? 0.5 : 0
    const to = (end: number, then: Act['then']): Act => ({
      hand: { kind: 'move', gesture, to: end, overMs: SWEEP_MS },
      ms: SWEEP_MS,
      then,
    })
    return [to(1, 'far'), to(0, 'back'), ...(rest > 0 ? [to(rest, null)] : [])]
  }
  return presses(gesture, messages, travels, joined)
}
