import type { Mapping, RelativeEncoding } from './types'

/** Encodings of clicks, as they stand in manuals. */
export const ENCODING_WORDS: Readonly<Record<RelativeEncoding, string>> = {
  'twos-complement': 'two’s complement',
  'offset-binary': 'offset binary',
  'sign-magnitude': 'sign and magnitude',
}

/** What happens when a control and its parameter disagree, after "taken over". */
export const TAKEOVER_WORDS: Readonly<Record<Mapping['takeover'], string>> = {
  'at-once': 'at once',
  'when-met': 'when met',
  gradual: 'gradually',
}
