import { PAIR_DISTANCE } from '../midi'

/** A control that a motor moves: where it was last, where it goes, and when it was told or heard, in ms. */
export interface Motor {
  from: number
  to: number
  at: number
}
/** By where they send. */
export type Motors = Readonly<Record<string, Motor>>

/** Nothing was told yet, so that nothing is to be looked for. */
export const NO_MOTORS: Motors = {}

/** A motor says where it is at least so often, in ms. */
const MOTOR_MS = 150
/** So many are kept. */
const MOST_MOTORS = 64

const CC = 0xb0
const BEND = 0xe0
const KIND = 0xf0

/** Where a message lands and what it says there, where a motor can be behind it: CC and pitch bend. */
function spotOf([status = 0, first = 0, second = 0]: readonly number[]): {
  spot: string
  value: number
} | null {
  switch (status & KIND) {
    case CC:
      return { spot: `${status} ${first}`, value: second }
    case BEND:
      return { spot: `${status}`, value: first + (second << 7) }
    default:
      return null
  }
}

/**
 * The hardware was told something: a motor may go from where its control was to there. `lastSaid` is what it said last, or null; then
 * nothing is known of its way.
 */
export function motorsTold(
  motors: Motors,
  bytes: readonly number[],
  at: number,
  lastSaid: () => number | null,
): Motors {
  const told = spotOf(bytes)
  if (!told) return motors
  const { spot, value } = told
  const from = motors[spot]?.from ?? lastSaid()
  const others = Object.entries(motors).filter(([key]) => key !== spot)
  return {
    ...Object.fromEntries(others.slice(-MOST_MOTORS + 1)),
    // Of what was never heard it is not known where it was, so that nothing can be on its way.
    [spot]: { from: from ?? value, to: value, at },
  }
}

/** What is known of the motors after a message that came of one on its way, or there; null where a hand is behind it. */
export function passing(
  motors: Motors,
  bytes: readonly number[],
  at: number,
): { motors: Motors; isThere: boolean } | null {
  if (motors === NO_MOTORS) return null
  const heard = spotOf(bytes)
  if (!heard) return null
  const { spot, value } = heard
  const motor = motors[spot]
  if (motor && at - motor.at <= MOTOR_MS) {
    const [low, high] = [Math.min(motor.from, motor.to), Math.max(motor.from, motor.to)]
    // It comes nearer with every message, and never back.
    if (value !== motor.from && value >= low && value <= high)
      return { motors: { ...motors, [spot]: { ...motor, from: value, at } }, isThere: value === motor.to }
  }
  const [status = 0, number = 0] = bytes
  if ((status & KIND) !== CC || number < PAIR_DISTANCE || number >= 2 * PAIR_DISTANCE) return null
  // The LSB of a pair goes round many times on the way of its MSB.
  const whole = motors[`${status} ${number - PAIR_DISTANCE}`]
  const isOnItsWay = whole && at - whole.at <= MOTOR_MS && whole.from !== whole.to
  return isOnItsWay ? { motors, isThere: false } : null
}

/** A hand has moved something: what has a motor stands there now, and goes nowhere. */
export function handMoved(motors: Motors, bytes: readonly number[], at: number): Motors {
  if (motors === NO_MOTORS) return motors
  const heard = spotOf(bytes)
  if (!heard || !motors[heard.spot]) return motors
  return { ...motors, [heard.spot]: { from: heard.value, to: heard.value, at } }
}
