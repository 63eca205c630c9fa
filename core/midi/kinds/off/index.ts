import type { Kind } from '../kind'

/** A gesture that sends nothing. */
export const off: Kind<'off'> = {
  scope: 'none',
  name: 'nothing',
  bounds: null,
  top: null,
  fresh: () => ({ kind: 'off' }),
  numberOf: () => null,
  withNumber: (message) => message,
  bytes: () => [],
  sweepBytes: () => 0,
  travel: () => ({ kind: 'nothing' }),
  words: () => [],
}
