/** A port that messages come from or go to, outside the rig's own simulation. */
export interface OuterPort {
  id: string
  name: string
  maker: string
  direction: 'in' | 'out'
  /** Is it there now? One that was unplugged is remembered by its driver for a while. */
  isThere: boolean
}

/** Why ports cannot be used, each with what the player can do. */
export type PortTrouble =
  /** The browser knows no MIDI ports. */
  | 'not-offered'
  /** The player or the browser's settings said no. */
  | 'refused'
  /** The MIDI system of the computer does not answer. */
  | 'no-system'
  /** Another program has the port. */
  | 'held'
  /** It was unplugged. */
  | 'unplugged'
  /** It is SysEx, and the browser was not asked for that. */
  | 'needs-sysex'
  | 'failed'

/** A port that does not do what it was asked. */
export class PortError extends Error {
  override name = 'PortError'
  constructor(
    readonly trouble: PortTrouble,
    cause?: unknown,
  ) {
    super(trouble, { cause })
  }
}

/** Ends something that was begun. */
export type Stop = () => void

/** Ports that can be listened to and sent to. */
export interface OpenPorts {
  hasSysex: boolean
  ports: () => readonly OuterPort[]
  /** Ports came, went or changed. */
  onChange: (listener: () => void) => Stop
  /** Bytes of an in, in the order in which they come, at a time of `performance.now()`. Rejects with a PortError. */
  listen: (id: string, listener: (bytes: Uint8Array, atMs: number) => void) => Promise<Stop>
  /** Send whole messages to an out. Throws a PortError. */
  send: (id: string, bytes: readonly number[]) => void
  close: () => void
}

/** A way to get at ports. */
export interface PortDriver {
  /** Rejects with a PortError. */
  open: (wants: { sysex: boolean }) => Promise<OpenPorts>
}
