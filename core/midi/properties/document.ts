/**
 * What a device says of itself by MIDI-CI property exchange: DeviceInfo and ChannelList (Property Exchange Foundational Resources,
 * M2-105), ProgramList and AllCtrlList (its resources of programs and controllers). Numbers are as sent: channels 1–16, controllers
 * 0–127, parameters 0–16383, programs 0–127.
 */
export interface PropertyDocument {
  device: PropertyDevice | null
  channels: readonly PropertyChannel[]
  controls: readonly PropertyControl[]
  programs: readonly PropertyProgram[]
}

export interface PropertyDevice {
  manufacturer: string
  family: string
  model: string
  version: string
}

export interface PropertyChannel {
  title: string
  /** 1–16. */
  channel: number
}

export const PROPERTY_KINDS = ['cc', 'nrpn', 'rpn', 'pBend', 'chPress', 'pPress'] as const
export type PropertyKind = (typeof PROPERTY_KINDS)[number]

/** How a controller is sent or heard; `none` is not at all. */
export const PROPERTY_WAYS = ['absolute', 'relative', 'both', 'none'] as const
export type PropertyWay = (typeof PROPERTY_WAYS)[number]

export interface PropertyControl {
  title: string
  kind: PropertyKind
  /** CC 0–127, parameters 0–16383; 0 where the kind has no numbers. */
  number: number
  /** 1–16; null for any. */
  channel: number | null
  transmit: PropertyWay
  recognize: PropertyWay
  /** How many bits say something, 7 to 32. */
  bits: number
  /** How many values it takes; null for all. */
  steps: number | null
  /** The values of so many bits as it sends; null for all. */
  range: { low: number; high: number } | null
}

export interface PropertyProgram {
  title: string
  bank: { msb: number; lsb: number }
  /** 0–127. */
  number: number
}
