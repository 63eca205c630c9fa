import type { Seven } from './ranges'

/**
 * General MIDI System Level 1, Table 3 "Percussion Key Map" (channel 10), notes 35–81.
 */
const FIRST = 35
const SOUNDS = [
  'Acoustic bass drum',
  'Bass drum 1',
  'Side stick',
  'Acoustic snare',
  'Hand clap',
  'Electric snare',
  'Low floor tom',
  'Closed hi-hat',
  'High floor tom',
  'Pedal hi-hat',
  'Low tom',
  'Open hi-hat',
  'Low-mid tom',
  'Hi-mid tom',
  'Crash cymbal 1',
  'High tom',
  'Ride cymbal 1',
  'Chinese cymbal',
  'Ride bell',
  'Tambourine',
  'Splash cymbal',
  'Cowbell',
  'Crash cymbal 2',
  'Vibraslap',
  'Ride cymbal 2',
  'Hi bongo',
  'Low bongo',
  'Mute hi conga',
  'Open hi conga',
  'Low conga',
  'High timbale',
  'Low timbale',
  'High agogo',
  'Low agogo',
  'Cabasa',
  'Maracas',
  'Short whistle',
  'Long whistle',
  'Short guiro',
  'Long guiro',
  'Claves',
  'Hi wood block',
  'Low wood block',
  'Mute cuica',
  'Open cuica',
  'Mute triangle',
  'Open triangle',
] as const

/** The channel that General MIDI keeps for percussion (same section). */
export const PERCUSSION_CHANNEL = 10

/** The General MIDI percussion sound of note 0–127, or null outside 35–81. */
export const percussionName = (note: Seven): string | null => SOUNDS[note - FIRST] ?? null
