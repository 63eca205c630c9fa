import { keepsState, topOf, travelOf, type Address, type SentMessage } from '../../midi'
import { controlsOf, modelOf, splitGestureKey, type Control, type Place, type Rig } from '../../rig'
import { candidatesOf, readKeys, type Candidate } from '../heard/candidates'
import type { Observation } from './observe'
import type { World } from './worlds'

/** A gesture that an observation may be of, if a world is so. */
export interface Match {
  place: Place
  control: Control
  message: SentMessage
}

/** Whose an observation is, if a world is so. */
export interface Matched {
  /** Those who send it as it came; several only where they send the same. */
  all: readonly Match[]
  /** Those who send there, but other values. */
  nearly: readonly Match[]
}

const SEVEN_TOP = 127
const FOURTEEN_TOP = 16_383
const NOTES = 128

/** An address as it would be if the keys had not been shifted; null where there would be no such note. */
function unshifted(address: Address, semitones: number): Address | null {
  if (address.scope === 'system') return null
  const { target } = address
  if (target.kind !== 'note' && target.kind !== 'polyPressure') return null
  const low = target.low - semitones
  return low < 0 || low >= NOTES ? null : { ...address, target: { ...target, low, high: low } }
}

/** Does a message play several keys? */
const hasKeys = (message: SentMessage): boolean => 'keys' in message && message.keys.kind !== 'one'

/** Values that are seen of seven bits are those of the MSB, where a message has fourteen. */
const scaleOf = (message: SentMessage, { top }: Observation): number =>
  topOf(message) === FOURTEEN_TOP && top === SEVEN_TOP ? (FOURTEEN_TOP + 1) / (SEVEN_TOP + 1) : 1

/** Does a message say some of the values of an observation, and which? */
function saidBy(
  { message, control }: Match,
  seen: Observation,
  isInverted: boolean,
): (value: number) => boolean {
  const travel = travelOf(message, control)
  const scale = scaleOf(message, seen)
  switch (travel.kind) {
    case 'sweep': {
      const ends = [travel.at(0), travel.at(travel.count - 1)]
      // An MSB stands for all that its LSB may add.
      const slack = topOf(message) === FOURTEEN_TOP ? SEVEN_TOP : 0
      return (value) =>
        value * scale >= Math.min(...ends) - slack && value * scale <= Math.max(...ends) + slack
    }
    case 'points': {
      const values = new Set(travel.values)
      const pressed = isInverted ? travel.values[0] : travel.values.at(-1)
      const isOrdered = !travel.isKept && values.size > 1 && message.kind !== 'note'
      // What is pressed speaks first with what pressing says.
      if (isOrdered && (seen.firsts[0] ?? 0) * scale !== pressed) return () => false
      return (value) => values.has(value * scale)
    }
    case 'strike':
    case 'clicks':
    case 'signal':
      return () => true
    case 'nothing':
      return () => false
  }
}

/** The controls that were held meanwhile, in a world. */
const heldIn = (world: World, { during }: Observation): Set<string> => {
  const all = candidatesOf(world.controller, world.showing)
  return new Set(
    during.flatMap((note) =>
      (all.get(note) ?? []).flatMap(({ isShown, place }) =>
        isShown ? [splitGestureKey(place.gesture).control] : [],
      ),
    ),
  )
}

/** Whose an observation is if a world is so. */
export function matchIn(rig: Rig, world: World, seen: Observation): Matched {
  const controls = controlsOf(modelOf(rig, world.controller))
  const all = candidatesOf(world.controller, world.showing)
  const sentAt = (address: Address): Candidate[] =>
    readKeys(address)
      .flatMap((key) => all.get(key) ?? [])
      .filter(({ isShown }) => isShown)
  const shifted = world.semitones === 0 ? null : unshifted(seen.address, world.semitones)
  // Only keys are shifted: a pad plays its note whatever the octave.
  const there = [
    ...sentAt(seen.address).filter(({ message }) => world.semitones === 0 || !hasKeys(message)),
    ...(shifted ? sentAt(shifted).filter(({ message }) => hasKeys(message)) : []),
  ].flatMap(({ place, message }): Match[] => {
    const control = controls.get(splitGestureKey(place.gesture).control)
    return control ? [{ place, message, control }] : []
  })
  const known = seen.touched === null ? there : there.filter(({ place }) => place.gesture === seen.touched)
  const held = known.length > 1 ? heldIn(world, seen) : new Set<string>()
  const own = known.filter(({ control }) => held.has(control.id))
  const who = own.length > 0 ? own : known
  const said = who.map((match) => ({ match, says: saidBy(match, seen, world.isInverted) }))
  const values = [...seen.values, seen.low, seen.high]
  const isWhole = values.every((value) => said.some(({ says }) => says(value)))
  if (!isWhole) return { all: [], nearly: who }
  // Of those that send there, who says nothing of what came was not touched.
  const touched = said.filter(({ match, says }) =>
    seen.values.some((value) => says(value) && isTelling(match, value, seen)),
  )
  return { all: (touched.length > 0 ? touched : said).map(({ match }) => match), nearly: [] }
}

/** Does a value tell that a gesture was touched? What it says when it is let go may be another's. */
function isTelling({ message, control }: Match, value: number, seen: Observation): boolean {
  const travel = travelOf(message, control)
  return (
    travel.kind !== 'points' ||
    travel.isKept ||
    travel.values.at(-1) === value * scaleOf(message, seen) ||
    travel.values.length < 2
  )
}

/** A toggle that says the same again and again is stuck; it was pressed so often at least. */
const STUCK_PRESSES = 2
/** What a pedal may lack at its end and still reach it, of its range. */
const NEAR = 0.02

/** What is wrong with one control, though what comes is of it. */
export type Flaw = { kind: 'stuck' } | { kind: 'short'; reaches: number; of: number } | null

/** What is wrong with a control by what was heard of it: a toggle that is stuck, a pedal that stops short. */
export function flawOf({ message, control }: Match, seen: Observation): Flaw {
  const travel = travelOf(message, control)
  if (keepsState(travel) && seen.count >= STUCK_PRESSES && seen.low === seen.high) return { kind: 'stuck' }
  if (control.kind !== 'pedal' || travel.kind !== 'sweep' || seen.count < STUCK_PRESSES) return null
  const [first, last] = [travel.at(0), travel.at(travel.count - 1)]
  const of = Math.max(first, last)
  const reaches = seen.high * scaleOf(message, seen)
  return of - reaches > Math.abs(last - first) * NEAR ? { kind: 'short', reaches, of } : null
}
