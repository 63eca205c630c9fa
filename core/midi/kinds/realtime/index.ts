import { REALTIME_COMMANDS, REALTIME_NAMES } from '../../transport'
import { readCommand } from '../command'
import type { Kind } from '../kind'

/** System Real Time: one byte (MIDI 1.0 Detailed Specification, "System Real Time Messages"). */
export const realtime: Kind<'realtime'> = {
  scope: 'system',
  name: 'real-time transport',
  bounds: null,
  top: null,
  fresh: () => ({ kind: 'realtime', moment: 'move', command: 'start' }),
  numberOf: () => null,
  withNumber: (message) => message,
  tag: {
    print: ({ command }) => `rt:${command}`,
    read: (text) => readCommand(text, 'rt', REALTIME_NAMES, (command) => ({ kind: 'realtime', command })),
  },
  target: ({ command }) => ({ kind: 'realtime', command }),
  withTarget: (message, { command }) => ({ ...message, command }),
  bytes: ({ command }) => [REALTIME_COMMANDS[command]],
  sweepBytes: () => 1,
  travel: () => ({ kind: 'signal' }),
  words: () => ['once'],
}
