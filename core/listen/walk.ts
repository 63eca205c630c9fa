import type { Control, GestureKind, Id } from '../rig'
import { PAIR_DISTANCE } from '../midi'
import { actedBy, actWith, isPressed } from './act'
import { primaryOf } from './guesses'
import { knownOf, type Known } from './known'
import { listen, LISTEN_START, senderIn, type ListenState } from './listen'
import { missingOf, nextOpen, settle } from './settle'
import { alternating } from './theories/alternating'
import type { Point } from './trail'
import { ASKED_PRESSES } from './types'
import { nameIn, type Belongings, type Walk } from './walk-state'

export type { Belongings, Walk } from './walk-state'

export type WalkEvent =
  /** A whole message, at ms; `isKnown` says that the template has it from a control already. */
  | { kind: 'message'; at: number; bytes: readonly number[]; isKnown: boolean }
  /** The hardware was told something, at ms: what it says again of it is no movement. */
  | { kind: 'told'; at: number; bytes: readonly number[] }
  /** Time goes on, in ms: what nothing more comes of is over. */
  | { kind: 'time'; at: number }
  /** Go to another step. */
  | { kind: 'go'; to: number }
  /** What was heard of a control is not so: it is moved anew. */
  | { kind: 'forget'; control: Id }

/** A hand is done with something when nothing more came of it for so long, in ms. */
export const QUIET_MS = 350
/** Something that is held may be moved again within so long, in ms. */
const HELD_MS = 2500
/** What never stops by itself is looked at after so long, in ms. */
const ENDLESS_MS = 6000
/** Presses are one run while they are no further apart, in ms. */
const RUN_MS = 1600

/**
 * Begin to go along controls in order. What was known from before stays known. Where `adds` is false, controls keep to the gestures
 * that they have.
 */
export const startWalk = (
  steps: readonly Control[],
  {
    heard = LISTEN_START,
    belongs = {},
    adds = true,
  }: { heard?: ListenState; belongs?: Belongings; adds?: boolean } = {},
): Walk => ({
  heard,
  steps,
  next: nextOpen(steps, belongs, 0),
  belongs,
  adds,
  act: null,
  presses: null,
  others: [],
  last: null,
})

/** What is known of a control, gesture by gesture as they lie in its kind. */
export function knownIn({ heard, belongs }: Walk, control: Control): Known[] {
  const byGesture = new Map<GestureKind, { senders: string[]; program: number | null }>()
  for (const each of Object.values(belongs)) {
    if (each.control !== control.id) continue
    const known = byGesture.get(each.gesture)
    if (known) known.senders.push(each.sender)
    else byGesture.set(each.gesture, { senders: [each.sender], program: each.program })
  }
  return [...byGesture].flatMap(
    ([gesture, { senders, program }]) => knownOf(heard, control, gesture, senders, program) ?? [],
  )
}

/** Does something that began still go on, so that what goes with it may come? A button does not wait for more. */
function isHeld({ heard, act, steps, next, belongs }: Walk): boolean {
  const step = steps[next]
  const [wanted] = step ? missingOf(belongs, step) : []
  if (!act || wanted === undefined || wanted === 'press') return false
  return [...act.senders].some((key) => {
    const acted = actedBy(heard, key, act.from)
    return acted?.points.length === 1 && acted.shape !== 'leaned'
  })
}

/** Is a hand done with what it was at? */
function isOver(walk: Walk, at: number): boolean {
  if (!walk.act) return false
  const quiet = at - walk.act.last
  return quiet > QUIET_MS ? quiet > HELD_MS || !isHeld(walk) : at - walk.act.from > ENDLESS_MS
}

const middle = (all: readonly number[]): number => all.toSorted((a, b) => a - b)[all.length >> 1] ?? 0
/** Pressed and let go, one of two values stays for so much longer than the other. */
const UNEVEN = 1.5

/** Do two values come as pressing and letting go do, one of them for much less long? */
function isUneven(points: readonly Point[]): boolean {
  const pair = alternating({ points, top: 127, answers: [] })
  if (!pair) return false
  const stays = (mark: number): number =>
    middle(
      points.flatMap((point, index) => {
        const next = points[index + 1]
        return point.mark === mark && next ? [next.at - point.at] : []
      }),
    )
  const [a, b] = [stays(pair.first), stays(pair.second)]
  return Math.max(a, b) > Math.min(a, b) * UNEVEN
}

/** Can so many messages have come of six presses, as the player was asked for? */
function isAnswer(points: readonly Point[]): boolean {
  if (points.length === 2 * ASKED_PRESSES || points.length === 2 * ASKED_PRESSES - 1) return true
  // Three presses of what is held give six messages too, and have their rhythm.
  return points.length === ASKED_PRESSES && !isUneven(points)
}

/** A run of presses is over: it answers what was asked for, where it can be that. */
function endRun(walk: Walk): Walk {
  const { presses, heard, belongs } = walk
  if (!presses) return walk
  const ended: Walk = { ...walk, presses: null }
  const own = belongs[presses.name]
  const acted = own && own.program === null ? actedBy(heard, own.sender, presses.from) : null
  if (!own || !acted || !isAnswer(acted.points)) return ended
  const asked = listen(heard, { kind: 'asked', ask: 'press', sender: own.sender, since: presses.from })
  return { ...ended, heard: listen(asked, { kind: 'answered' }) }
}

function pressedAt(walk: Walk, name: string, from: number, at: number): Walk {
  const own = walk.belongs[name]
  const { presses } = walk
  if (presses && presses.name === name && at - presses.last <= RUN_MS)
    return { ...walk, presses: { ...presses, last: at } }
  const ended = endRun(walk)
  return own && isPressed(own.gesture) ? { ...ended, presses: { name, from, last: at } } : ended
}

/** A hand is done: what it did goes to the steps, and what was pressed may be pressed again. */
function settled(walk: Walk): Walk {
  const { act } = walk
  if (!act) return walk
  const after = settle(walk)
  const pressed = [...act.senders].findLast((key) => {
    const own = after.belongs[nameIn(after.heard, key).name]
    return own !== undefined && isPressed(own.gesture)
  })
  return pressed === undefined
    ? after
    : {
        ...endRun(after),
        presses: { name: nameIn(after.heard, pressed).name, from: act.from, last: act.last },
      }
}

/** The player is done with everything: what was begun is looked at as it is. */
export const finishWalk = (walk: Walk): Walk => endRun(settled(walk))

function timePassed(walk: Walk, at: number): Walk {
  const after = isOver(walk, at) ? settled(walk) : walk
  return after.presses && at - after.presses.last > RUN_MS ? endRun(after) : after
}

/** An LSB that comes so soon after the MSB, in ms, comes with it. */
const TOGETHER_MS = 30

/** The name by which something that was heard belongs to a control; null where it belongs to none. */
function ownName(belongs: Belongings, heard: ListenState, key: string, at: number): string | null {
  const { name } = nameIn(heard, key)
  if (belongs[name]) return name
  const { address, sysex } = senderIn(heard, key) ?? {}
  // SysEx that differ from it at one place are of the same control.
  const spoken = sysex ? belongs[primaryOf(heard, key)] : undefined
  if (spoken && !isPressed(spoken.gesture)) return spoken.sender
  if (address?.scope !== 'channel' || address.target.kind !== 'cc') return null
  const { channel, target } = address
  const msb = `${channel}:cc${target.number - PAIR_DISTANCE}`
  if (!belongs[msb]) return null
  const last = senderIn(heard, msb)?.trail
  const lastAt = last?.points[last.to - 1]?.at ?? -Infinity
  // Alone it is the other half only where that is sure: it may be a control of its own.
  return at - lastAt <= TOGETHER_MS || primaryOf(heard, key, true) === msb ? msb : null
}

function messageHeard(before: Walk, event: Extract<WalkEvent, { kind: 'message' }>): Walk {
  const { at, bytes, isKnown } = event
  const walk = timePassed(before, at)
  const heard = listen({ ...walk.heard, last: null }, { kind: 'message', at, bytes })
  // Clocks, and what only prepares another message, are nobody's.
  if (heard.last === null) return { ...walk, heard: { ...heard, last: walk.heard.last } }
  // What a hand is at is sorted when it is done: until then nothing need be known of it.
  if (walk.act?.senders.has(heard.last) && !walk.belongs[heard.last])
    return { ...walk, heard, act: actWith(walk.act, heard.last, at) }
  const name = ownName(walk.belongs, heard, heard.last, at)
  const own = name === null ? undefined : walk.belongs[name]
  if (own && name !== null) {
    const after = { ...pressedAt({ ...walk, heard }, name, at, at), last: own.control }
    // A channel has one pressure, whichever pad is leaned into.
    return own.gesture === 'pressure' && walk.act
      ? { ...after, act: actWith(walk.act, heard.last, at) }
      : after
  }
  if (isKnown) return { ...walk, heard }
  return {
    ...walk,
    heard,
    act: actWith(walk.act, heard.last, at),
    others: walk.act ? walk.others : [],
  }
}

function forgotten(walk: Walk, control: Id): Walk {
  const index = walk.steps.findIndex(({ id }) => id === control)
  const belongs = Object.fromEntries(
    Object.entries(walk.belongs).filter(([, each]) => each.control !== control),
  )
  return {
    ...walk,
    belongs,
    presses: null,
    act: null,
    last: walk.last === control ? null : walk.last,
    next: index < 0 ? walk.next : index,
  }
}

/**
 * Hear one more thing while a player goes along the hardware. What nothing is known of goes to the steps in order, when the hand is
 * done with it; a touch, the other axis and a pressure go to the control that they come with.
 */
export function walk(before: Walk, event: WalkEvent): Walk {
  switch (event.kind) {
    case 'message':
      return messageHeard(before, event)
    case 'told':
      return { ...before, heard: listen(before.heard, event) }
    case 'time':
      return timePassed(before, event.at)
    case 'go':
      return {
        ...settled(before),
        next: Math.max(0, Math.min(before.steps.length, Math.trunc(event.to))),
      }
    case 'forget':
      return forgotten(before, event.control)
  }
}
