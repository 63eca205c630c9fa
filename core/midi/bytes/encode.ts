/** A writer of a byte stream that leaves out the status where it stays the same. */
export interface RunningWriter {
  /** The bytes of one whole message, as they go on the wire. */
  write: (message: readonly number[]) => number[]
}

/**
 * A writer with running status (MIDI 1.0 Detailed Specification, "Running Status"): a status that stays the same is left out;
 * system messages end it, real-time messages do not.
 */
export function runningWriter(): RunningWriter {
  let running: number | null = null
  return {
    write: (message) => {
      const [status = 0] = message
      if (status >= 0xf8) return [...message]
      if (status >= 0xf0) {
        running = null
        return [...message]
      }
      const isSame = status === running
      running = status
      return isSame ? message.slice(1) : [...message]
    },
  }
}
