import { controllerClass, isBlackKey, noteName, type ControllerClass, type MiddleC } from '#core/midi'
import type { Family } from '#core/addresses'

/** A run of numbers that share a ground: plain, toned (well known) or crossed (kept by the standard). */
export interface GroundRun {
  low: number
  high: number
  ground: 'plain' | 'toned' | 'kept'
}

/** A heading over the grid, at a number. */
export interface Heading {
  at: number
  text: string
}

const CONTROLLER_GROUND: Readonly<Record<ControllerClass, GroundRun['ground']>> = {
  undefined: 'plain',
  'general-purpose': 'plain',
  'second-of-pair': 'plain',
  standard: 'toned',
  carrier: 'kept',
  'bank-select': 'kept',
  mode: 'kept',
}

function runsOf(groundAt: (number: number) => GroundRun['ground']): GroundRun[] {
  const runs: GroundRun[] = []
  for (let number = 0; number < 128; number++) {
    const ground = groundAt(number)
    const last = runs.at(-1)
    if (last?.ground === ground) last.high = number
    else runs.push({ low: number, high: number, ground })
  }
  return runs.filter(({ ground }) => ground !== 'plain')
}

const CONTROLLER_RUNS = runsOf((number) => CONTROLLER_GROUND[controllerClass(number)])
const NOTE_RUNS = runsOf((note) => (isBlackKey(note) ? 'toned' : 'plain'))

/** What lies under the cells of a family, without the plain runs. */
export const groundRuns = (family: Family): readonly GroundRun[] =>
  family === 'cc' ? CONTROLLER_RUNS : family === 'note' ? NOTE_RUNS : []

const SIXTEENS = Array.from({ length: 8 }, (_, index) => index * 16)

const CONTROLLER_HEADINGS: readonly Heading[] = [
  { at: 0, text: '0' },
  { at: 16, text: '16' },
  { at: 20, text: '20 undefined' },
  { at: 33, text: '33 second halves' },
  { at: 64, text: '64 pedals, sound' },
  { at: 80, text: '80' },
  { at: 96, text: '96' },
  { at: 102, text: '102 undefined' },
  { at: 120, text: '120 mode' },
]

/** What stands over the grid; programs as the rig counts them, from 0 or 1. */
export const headings = (family: Family, middleC: MiddleC, programsFrom: 0 | 1): readonly Heading[] =>
  family === 'cc'
    ? CONTROLLER_HEADINGS
    : family === 'program'
      ? SIXTEENS.map((at) => ({ at, text: String(at + programsFrom) }))
      : Array.from({ length: 11 }, (_, octave) => ({
          at: octave * 12,
          text: noteName(octave * 12, middleC),
        }))

/** A character of a heading is so wide (px). */
const HEADING_CHAR_PX = 6.7
const HEADING_GAP_PX = 6

/** Headings in the room there is: shortened to their number, or left out, where the next would be written over. */
export function headingsThatFit(all: readonly Heading[], columnWidthPx: number, numbers = 128): Heading[] {
  const widthOf = (text: string): number => text.length * HEADING_CHAR_PX + HEADING_GAP_PX
  const shown: Heading[] = []
  for (const [index, heading] of all.entries()) {
    const room = ((all[index + 1]?.at ?? numbers) - heading.at) * columnWidthPx
    const [short = ''] = heading.text.split(' ')
    const before = shown.at(-1)
    const from = before ? before.at * columnWidthPx + widthOf(before.text) : 0
    if (heading.at * columnWidthPx < from) continue
    shown.push(widthOf(heading.text) <= room ? heading : { at: heading.at, text: short })
  }
  return shown
}

/** Numbers at which a stronger line is drawn. */
export const strongLines = (family: Family): readonly number[] =>
  family === 'cc'
    ? [16, 20, 32, 48, 64, 80, 96, 102, 112, 120]
    : family === 'program'
      ? SIXTEENS.slice(1)
      : Array.from({ length: 10 }, (_, octave) => (octave + 1) * 12)
