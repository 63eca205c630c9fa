import type { WireFault } from './decode'

/** What is wrong where a stream of bytes is no message, within a sentence. */
export const WIRE_FAULT_WORDS: Readonly<Record<WireFault['fault'], string>> = {
  'stray-data': 'a data byte belongs to no message',
  'cut-short': 'a message ends before it is whole',
  'undefined-status': 'a status byte is one that MIDI does not define',
  'sysex-unended': 'a SysEx never ends',
  'sysex-too-long': 'a SysEx is too long',
  'not-a-byte': 'something is no byte',
}
