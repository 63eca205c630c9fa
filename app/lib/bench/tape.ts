import type { Passing } from '#core/bench'
import { isChannelMessage, printTag, topOf } from '#core/midi'
import { landedAt } from '#core/addresses'
import { controlsOf, gestureName, modelOf, rigIndex, splitGestureKey, type Id, type Rig } from '#core/rig'

/** So many messages are kept; the oldest go first. */
export const MOST_KEPT = 100_000
/** They go in pieces, so that not every message costs a copy of all. */
const PIECE = 10_000

/** Everything that passed, oldest first. `messages` is only ever added to: `count` says how many of it count. */
export interface Tape {
  messages: readonly Passing[]
  count: number
  /** How many went because they were too many. */
  dropped: number
}
export const EMPTY_TAPE: Tape = { messages: [], count: 0, dropped: 0 }

/** The tape with more on it. */
export function appendTo(tape: Tape, passed: readonly Passing[]): Tape {
  // The array is shared with the tapes before, which see no more of it than they counted.
  const messages = (
    tape.count === tape.messages.length ? tape.messages : tape.messages.slice(0, tape.count)
  ) as Passing[]
  const all = tape.count === 0 ? [] : messages
  for (const each of passed) all.push(each)
  if (all.length <= MOST_KEPT + PIECE) return { messages: all, count: all.length, dropped: tape.dropped }
  const kept = all.slice(all.length - MOST_KEPT)
  return { messages: kept, count: kept.length, dropped: tape.dropped + all.length - kept.length }
}

/** How high a message is drawn: its value as a share of what it can be; clicks a little above or below the middle. */
export function levelOf({ message, value, amount }: Passing): number {
  if (amount.kind === 'clicks') return 0.5 + Math.max(-0.45, Math.min(0.45, amount.by * 0.12))
  if (amount.kind === 'signal') return 1
  return value / ((message && topOf(message)) ?? 127)
}

export interface LanePoint {
  at: number
  level: number
  value: number
  /** Is it a blow, or its end, rather than a point of a stroke? */
  isBlow: boolean
}

/** One control's line on the tape. */
export interface Lane {
  key: string
  controller: Id
  /** Null where no control of the template sends it. */
  gesture: string | null
  name: string
  tag: string
  letter: string
  hue: number
  points: readonly LanePoint[]
  last: Passing
}

/** What a message that no template sends is called in place of its control. */
const UNWRITTEN = 'not in the template'

/** One name for each control's message, or for each address that no control sends. */
export const senderKey = (passing: Passing): string =>
  passing.place
    ? `${passing.controller}/${passing.place.gesture}#${passing.messageIndex}${memberOf(passing)}`
    : `${passing.controller}/? ${tagOf(passing)}`

/** Notes of all keys are one line; what a zone says of each of them besides is a line for each of its channels. */
const memberOf = ({ message }: Passing): string =>
  !message || message.kind === 'note' || !isChannelMessage(message)
    ? ''
    : ` ${message.kind} ${message.channel}`

/** The name of what sent a message. */
export function senderName(rig: Rig, { controller, place }: Passing): string {
  if (!place) return UNWRITTEN
  const owner = rigIndex(rig).controllers.get(controller)
  const { control, gesture } = splitGestureKey(place.gesture)
  const found = owner && controlsOf(modelOf(rig, owner)).get(control)
  return found ? gestureName(found, gesture) : control
}

/** Where a message lands in writing; what has no address is named by its status (MIDI 1.0, "System Common Messages"). */
export const tagOf = ({ message, bytes }: Passing): string =>
  message ? landedAt(message).map(printTag).join(', ') : (COMMON[bytes[0] ?? 0] ?? 'bytes')

const COMMON: Readonly<Record<number, string>> = {
  0xf1: 'time code',
  0xf2: 'song position',
  0xf3: 'song',
  0xf6: 'tune request',
}

/** The first message of the tape at or after a time, by halving. */
function firstSince({ messages, count }: Tape, at: number): number {
  let [low, high] = [0, count]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((messages[middle]?.at ?? Infinity) < at) low = middle + 1
    else high = middle
  }
  return low
}

interface OpenLane {
  key: string
  last: Passing
  points: LanePoint[]
  /** So many of its points are too old to be seen. */
  past: number
}

/** The lanes of a tape, which are added to as it goes on. */
export interface Lanes {
  /** The lanes of what moved since a time, the one that moved last on top; `most` of them. */
  since: (tape: Tape, since: number, most: number) => Lane[]
}

/** So many points that are too old to be seen are carried along before they are dropped. */
const MOST_PAST = 4000

const pointOf = (passing: Passing): LanePoint => ({
  at: passing.at,
  level: levelOf(passing),
  value: passing.value,
  isBlow: passing.amount.kind === 'blow' || passing.amount.kind === 'signal',
})

function passPast(lane: OpenLane, since: number): void {
  while ((lane.points[lane.past]?.at ?? Infinity) < since) lane.past++
  if (lane.past <= MOST_PAST) return
  lane.points = lane.points.slice(lane.past)
  lane.past = 0
}

/** Lanes of what is looked at of a tape. Each message is looked at once, so that much that passes costs little. */
export function createLanes(rig: Rig, isLookedAt: (passing: Passing) => boolean): Lanes {
  const lanes = new Map<string, OpenLane>()
  let messages: Tape['messages'] = []
  let read = 0
  const laneOf = ({ key, last, points, past }: OpenLane): Lane => {
    const owner = rigIndex(rig).controllers.get(last.controller)
    return {
      key,
      controller: last.controller,
      gesture: last.place?.gesture ?? null,
      name: senderName(rig, last),
      tag: tagOf(last),
      letter: owner?.letter ?? '',
      hue: owner?.hue ?? 0,
      points: past === 0 ? points : points.slice(past),
      last,
    }
  }
  return {
    since: (tape, since, most) => {
      // Another array is another tape, or one of which the oldest have gone: then it is read anew as far as it is seen.
      if (tape.messages !== messages || tape.count < read) {
        lanes.clear()
        messages = tape.messages
        read = firstSince(tape, since)
      }
      for (; read < tape.count; read++) {
        const passing = tape.messages[read]
        if (!passing || !isLookedAt(passing)) continue
        const key = senderKey(passing)
        const lane = lanes.get(key) ?? { key, last: passing, points: [], past: 0 }
        lane.last = passing
        lane.points.push(pointOf(passing))
        lanes.set(key, lane)
      }
      const seen = [...lanes.values()].filter(({ last }) => last.at >= since)
      for (const lane of seen) passPast(lane, since)
      return seen
        .sort((a, b) => b.last.at - a.last.at)
        .slice(0, most)
        .map(laneOf)
    },
  }
}

/** A hole in a stroke: values that were passed over. */
export interface Hole {
  from: LanePoint
  to: LanePoint
}

/** Much more was passed over than the strokes around it pass. */
const HOLE_SHARE = 0.1
const HOLE_TIMES = 4

/** The holes of a stroke, the widest first: steps far larger than the usual ones of the same movement. */
export function holesOf(points: readonly LanePoint[], pauseMs = 250): Hole[] {
  const steps = points.flatMap((to, index): Hole[] => {
    const from = points[index - 1]
    return from && !to.isBlow && to.at - from.at <= pauseMs ? [{ from, to }] : []
  })
  if (steps.length < 8) return []
  const sizes = steps.map(({ from, to }) => Math.abs(to.level - from.level)).sort((a, b) => a - b)
  const usual = sizes[sizes.length >> 1] ?? 0
  const width = ({ from, to }: Hole): number => Math.abs(to.level - from.level)
  return steps
    .filter((hole) => width(hole) > HOLE_SHARE && width(hole) > HOLE_TIMES * usual)
    .sort((a, b) => width(b) - width(a))
}

/** What a message says, in a word. */
export function lastWords({ amount, value }: Passing): string {
  if (amount.kind === 'clicks') return `${amount.by > 0 ? '+' : ''}${amount.by}`
  return amount.kind === 'blow' && value === 0 ? 'let go' : String(value)
}

/** How far a movement has come within its message's range, where it has not reached both ends; else nothing. */
export function reachWords({ last: { message } }: Lane, reach: { low: number; high: number } | null): string {
  if (!message || !reach || !('range' in message)) return ''
  const [low, high] = [message.range.low, message.range.high].sort((a, b) => a - b) as [number, number]
  return reach.low <= low && reach.high >= high ? '' : `only ${reach.low}–${reach.high}`
}
