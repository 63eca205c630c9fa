/**
 * Transport commands. MIDI Machine Control 1.0 (RP-013), "Index List", commands 01–09; and
 * MIDI 1.0 Detailed Specification, "System Real Time Messages".
 */
export const MMC_COMMANDS = {
  stop: 0x01,
  play: 0x02,
  'deferred-play': 0x03,
  'fast-forward': 0x04,
  rewind: 0x05,
  'record-strobe': 0x06,
  'record-exit': 0x07,
  'record-pause': 0x08,
  pause: 0x09,
} as const

export const REALTIME_COMMANDS = {
  clock: 0xf8,
  start: 0xfa,
  continue: 0xfb,
  stop: 0xfc,
  sensing: 0xfe,
  reset: 0xff,
} as const

export type MmcCommand = keyof typeof MMC_COMMANDS
export type RealtimeCommand = keyof typeof REALTIME_COMMANDS

export const MMC_NAMES = Object.keys(MMC_COMMANDS) as [MmcCommand, ...MmcCommand[]]
export const REALTIME_NAMES = Object.keys(REALTIME_COMMANDS) as [RealtimeCommand, ...RealtimeCommand[]]
