import type { Cell } from '../cells'
import type { Channel } from '../ranges'
import type { Travel } from '../travel'
import type {
  ChannelMessage,
  ChannelTarget,
  MessageKind,
  MessageOf,
  SystemTarget,
  Target,
  TargetOf,
} from './types'

/** For what a message is made anew. */
export interface FreshFor {
  /** Is it pressed and let go, rather than moved? */
  isPressed: boolean
  /** Is it a keyboard, which plays a span of notes? */
  isKeyboard: boolean
}

/** Where a message lands within one channel. */
export interface Landing {
  channel: Channel
  target: ChannelTarget
}

/** A target read from text, or a sentence that says what is wrong with it. */
export type ReadTarget<T extends Target> = { ok: true; target: T } | { ok: false; message: string }

/** How targets of a kind are written after the colon of a tag; reading gives null for the text of another kind. */
export interface TagFacet<T extends Target> {
  print: (target: T) => string
  read: (body: string) => ReadTarget<T> | null
}

/** One value of a movement, to be written as bytes. */
export interface Movement {
  /** 1–16; without meaning for messages without channel. */
  channel: Channel
  /** 0 to the top of the range; clicks of an encoder, negative downwards; the velocity of a note, 0 to let go. */
  value: number
  /** The value that was sent before, or null at the first. */
  previous: number | null
  /** The key that is struck, for messages that play several. */
  key: number
  /** The device number of the sender, for SysEx. */
  device: number
}

/** What all message kinds say of themselves. */
interface KindBase<K extends MessageKind> {
  /** In plain words, within a sentence. */
  name: string
  /** The numbers it can carry, `without` some between; null where it carries none. */
  bounds: { low: number; high: number; without?: readonly number[] } | null
  /** The highest value of its range; null where it has none. */
  top: number | null
  /** A plain message, its number still wanted. */
  fresh: (use: FreshFor) => MessageOf<K>
  /** The one number that it carries; null where it has none, several, or still wants one. */
  numberOf: (message: MessageOf<K>) => number | null
  /** The same with another number, which must be within bounds. */
  withNumber: (message: MessageOf<K>, number: number) => MessageOf<K>
  /** The bytes of one value (MIDI 1.0 Detailed Specification, "Data Format"); empty while a number is wanted. */
  bytes: (message: MessageOf<K>, movement: Movement) => number[]
  /** How many bytes a movement from end to end takes that sends `most` values at most, without running status. */
  sweepBytes: (message: MessageOf<K>, most: number) => number
  /** What it makes of the movement of its control; `clicksPerTurn` of an encoder, where that is known. */
  travel: (message: MessageOf<K>, clicksPerTurn: number | null) => Travel
  /** What a control makes of being moved, the longest form first; empty where that goes without saying. */
  words: (message: MessageOf<K>) => readonly string[]
}

/** A kind that travels on a channel. */
export interface ChannelKind<K extends ChannelTarget['kind'] & MessageKind> extends KindBase<K> {
  scope: 'channel'
  /** What its number means to whoever hears it: nothing but where it lands, a sound, or what the standard says; null where it has none. */
  numberMeans: 'nothing' | 'sound' | 'standard' | null
  tag: TagFacet<TargetOf<K>>
  /** Where it lands as it is written; null while a number is wanted. */
  target: (message: MessageOf<K>) => TargetOf<K> | null
  /** The same message at another target of its kind. */
  withTarget: (message: MessageOf<K>, target: TargetOf<K>) => MessageOf<K>
  /** Where it is sent, without its channel, if that is not as it is written: transposed, or only the MSB. */
  sent?: (message: MessageOf<K>) => ChannelTarget | null
  /** The messages that it really is, for what looks at each by itself; left out where it is one. */
  parts?: (message: MessageOf<K>, channel: Channel) => ChannelMessage[]
  /** Where it really lands, sent on a channel: transposed, only the half that is sent, every member of a zone. */
  landings: (message: MessageOf<K>, channel: Channel) => Landing[]
  /** The cells it occupies, sent on a channel, with their roles; empty while a number is wanted. */
  cells: (message: MessageOf<K>, channel: Channel) => Cell[]
}

/** A kind that belongs to no channel. */
export interface SystemKind<K extends SystemTarget['kind'] & MessageKind> extends KindBase<K> {
  scope: 'system'
  tag: TagFacet<TargetOf<K>>
  /** Where it lands; null while a number is wanted. */
  target: (message: MessageOf<K>) => TargetOf<K> | null
  withTarget: (message: MessageOf<K>, target: TargetOf<K>) => MessageOf<K>
}

/** The kind that sends nothing. */
export interface NoKind extends KindBase<'off'> {
  scope: 'none'
}

/** The one definition of a message kind. */
export type Kind<K extends MessageKind> = K extends 'off'
  ? NoKind
  : K extends ChannelTarget['kind']
    ? ChannelKind<K>
    : K extends SystemTarget['kind']
      ? SystemKind<K>
      : never
