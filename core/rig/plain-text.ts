/** C0 and C1 controls with line ends among them, and the Unicode line and paragraph separators. */
// eslint-disable-next-line no-control-regex -- they are what is looked for
const BREAKS = /[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g
/** What turns the direction of all that follows, or is not there to be seen (Unicode, UAX 9 section 2, and U+FEFF). */
const TURNS = /[\u202a-\u202e\u2066-\u2069\u200e\u200f\u061c\ufeff\u200b\u2060]/g
/** Halves of a character, and characters that no text may hold (Unicode, section 23.7; XML 1.0, section 2.2). */
const BROKEN = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]|[\ufffe\uffff]/g

/**
 * A text as it can stand in any sentence and format, on one line: line ends and controls are a space, characters that would
 * turn what stands beside them are left out, and broken ones are shown as U+FFFD.
 */
export const plain = (text: string): string =>
  text.replace(BREAKS, ' ').replace(TURNS, '').replace(BROKEN, '\ufffd').trim()
