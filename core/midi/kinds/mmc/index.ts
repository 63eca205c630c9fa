import { MMC_COMMANDS, MMC_NAMES } from '../../transport'
import { readCommand } from '../command'
import type { Kind } from '../kind'

/** MIDI Machine Control (RP-013): a universal real-time SysEx, F0 7F device 06 command F7. */
export const mmc: Kind<'mmc'> = {
  scope: 'system',
  name: 'MMC transport',
  bounds: null,
  top: null,
  fresh: () => ({ kind: 'mmc', moment: 'move', command: 'play' }),
  numberOf: () => null,
  withNumber: (message) => message,
  tag: {
    print: ({ command }) => `mmc:${command}`,
    read: (text) => readCommand(text, 'mmc', MMC_NAMES, (command) => ({ kind: 'mmc', command })),
  },
  target: ({ command }) => ({ kind: 'mmc', command }),
  withTarget: (message, { command }) => ({ ...message, command }),
  bytes: ({ command }, { device }) => [0xf0, 0x7f, device, 0x06, MMC_COMMANDS[command], 0xf7],
  sweepBytes: () => 6,
  travel: () => ({ kind: 'signal' }),
  words: () => ['once'],
}
