/** The largest file that is opened as a capture, in bytes, and the messages that it holds at most; Standard MIDI Files are held to less by their reader. */
export const CAPTURE_LIMITS = { bytes: 40_000_000, messages: 300_000 } as const
