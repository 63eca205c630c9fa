import type { Fourteen } from './ranges'

/**
 * Registered parameter numbers.
 * MIDI 1.0 Detailed Specification, Table IIIa "Registered Parameter Numbers"; 5 by RP-018 / CA-026
 * (modulation depth range); 6 by "MIDI Polyphonic Expression" 1.0, section 2.1 (zone configuration).
 */
const REGISTERED: Readonly<Record<number, string>> = {
  0: 'Pitch bend range',
  1: 'Fine tuning',
  2: 'Coarse tuning',
  3: 'Tuning program',
  4: 'Tuning bank',
  5: 'Modulation depth range',
  6: 'Per-note zone',
  16383: 'Null',
}

/** The standard's name of a registered parameter 0–16383, or null. */
export const registeredParameterName = (number: Fourteen): string | null => REGISTERED[number] ?? null
