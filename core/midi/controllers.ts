import type { Seven } from './ranges'

/**
 * What kind of number a controller number is.
 *
 * MIDI 1.0 Detailed Specification (document version 4.2), Table III "Control Changes and Mode
 * Changes", with the recommended practices CA-031 (controller 88), RP-021 (sound controllers) and
 * RP-023 (renaming of 91 and 93).
 */
export type ControllerClass =
  'undefined' | 'general-purpose' | 'second-of-pair' | 'standard' | 'carrier' | 'bank-select' | 'mode'

/** Names of controllers 0–127 by the same table; numbers without an entry are undefined. */
const NAMES: Readonly<Record<number, string>> = {
  0: 'Bank select',
  1: 'Modulation wheel',
  2: 'Breath',
  4: 'Foot pedal',
  5: 'Portamento time',
  6: 'Data entry',
  7: 'Channel volume',
  8: 'Balance',
  10: 'Pan',
  11: 'Expression',
  12: 'Effect control 1',
  13: 'Effect control 2',
  16: 'General purpose 1',
  17: 'General purpose 2',
  18: 'General purpose 3',
  19: 'General purpose 4',
  64: 'Damper pedal',
  65: 'Portamento on/off',
  66: 'Sostenuto',
  67: 'Soft pedal',
  68: 'Legato footswitch',
  69: 'Hold 2',
  70: 'Sound variation',
  71: 'Timbre',
  72: 'Release time',
  73: 'Attack time',
  74: 'Brightness',
  75: 'Decay time',
  76: 'Vibrato rate',
  77: 'Vibrato depth',
  78: 'Vibrato delay',
  79: 'Sound controller 10',
  80: 'General purpose 5',
  81: 'General purpose 6',
  82: 'General purpose 7',
  83: 'General purpose 8',
  84: 'Portamento control',
  88: 'High-resolution velocity',
  91: 'Reverb send',
  92: 'Tremolo depth',
  93: 'Chorus send',
  94: 'Detune depth',
  95: 'Phaser depth',
  96: 'Data increment',
  97: 'Data decrement',
  98: 'NRPN, low part',
  99: 'NRPN, high part',
  100: 'RPN, low part',
  101: 'RPN, high part',
  120: 'All sound off',
  121: 'Reset all controllers',
  122: 'Local control',
  123: 'All notes off',
  124: 'Omni off',
  125: 'Omni on',
  126: 'Mono on',
  127: 'Poly on',
}

/** The first and second number of a 14-bit pair lie this far apart (same table). */
export const PAIR_DISTANCE = 32

/**
 * Controllers that carry parameters: data entry, increment and decrement, and the numbers that select (MIDI 1.0 Detailed
 * Specification, Table III).
 */
export const PARAMETER_CARRIERS: readonly Seven[] = [6, 38, 96, 97, 98, 99, 100, 101]

/** Every NRPN selects with 98, every RPN with 100 (same table): the LSB of what is selected. */
export const PARAMETER_SELECTS: readonly Seven[] = [98, 100]

const runs = (...spans: ReadonlyArray<readonly [number, number]>): ReadonlySet<number> =>
  new Set(spans.flatMap(([low, high]) => Array.from({ length: high - low + 1 }, (_, i) => low + i)))

const CLASS_MEMBERS: ReadonlyArray<readonly [ControllerClass, ReadonlySet<number>]> = [
  ['bank-select', runs([0, 0], [32, 32])],
  ['carrier', new Set(PARAMETER_CARRIERS)],
  ['mode', runs([120, 127])],
  ['standard', runs([1, 2], [4, 5], [7, 8], [10, 13], [64, 79], [84, 84], [88, 88], [91, 95])],
  ['general-purpose', runs([16, 19], [80, 83])],
  ['second-of-pair', runs([33, 37], [39, 63])],
]

const CLASSES: readonly ControllerClass[] = Array.from(
  { length: 128 },
  (_, number) => CLASS_MEMBERS.find(([, members]) => members.has(number))?.[0] ?? 'undefined',
)

/** The class of controller number 0–127. Throws a RangeError outside that. */
export function controllerClass(number: Seven): ControllerClass {
  const found = CLASSES[number]
  if (found === undefined) throw new RangeError(`Controller numbers are 0–127, not ${number}.`)
  return found
}

/**
 * The standard's name of controller 0–127, or null where the standard leaves it undefined.
 * The second number of a pair is named after the first ("Modulation wheel, second half").
 */
export function controllerName(number: Seven): string | null {
  const own = NAMES[number]
  if (own !== undefined) return own
  if (controllerClass(number) !== 'second-of-pair') return null
  const first = NAMES[number - PAIR_DISTANCE]
  return first === undefined ? `Second half of ${number - PAIR_DISTANCE}` : `${first}, second half`
}

/** Can controller `number` be the first of a 14-bit pair that is neither bank nor carrier? 1–31 except 6. */
export const canBePairFirst = (number: number): boolean =>
  Number.isInteger(number) && number >= 1 && number <= 31 && number !== 6

/** A short plain description of each class, for legends and read-outs. */
export const CONTROLLER_CLASS_LABEL: Readonly<Record<ControllerClass, string>> = {
  undefined: 'undefined: free to use',
  'general-purpose': 'general purpose',
  'second-of-pair': 'second half of a pair',
  standard: 'well known',
  carrier: 'carries NRPN and RPN',
  'bank-select': 'bank select',
  mode: 'channel mode',
}
