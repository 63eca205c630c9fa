import { sumToZero } from './packed'

/** Why hardware does not do what it was asked. */
export const REFUSALS = [
  'no-such-slot',
  'busy',
  'checksum',
  'order',
  'not-a-template',
  'other-model',
] as const
export type Refusal = (typeof REFUSALS)[number]

/** One message of the exchange by which simulated hardware gives and takes templates. */
export type SlotMessage = { device: number; slot: number } &
  /** Send what is in the slot. */
  (
    | { kind: 'ask' }
    /** One piece of a template, `index` of `count`, its bytes packed as seven bits. */
    | { kind: 'piece'; index: number; count: number; data: readonly number[] }
    /** A piece has come and is in order. */
    | { kind: 'taken'; index: number }
    /** The whole template is stored now. */
    | { kind: 'stored' }
    /** The slot is empty. */
    | { kind: 'empty' }
    | { kind: 'refused'; why: Refusal }
  )

/** The non-commercial id, and two letters that tell our messages from others that use it. */
const HEAD = [0xf0, 0x7d, 0x44, 0x4c] as const
const END = 0xf7
const OPS = { ask: 1, piece: 2, taken: 3, stored: 4, empty: 5, refused: 6 } as const
const ALL_DEVICES = 0x7f
const SEVEN_BITS = 7

const halves = (value: number): [number, number] => [value & 0x7f, (value >> SEVEN_BITS) & 0x7f]
const joined = (low: number, high: number): number => low | (high << SEVEN_BITS)

function bodyOf(message: SlotMessage): number[] {
  switch (message.kind) {
    case 'piece':
      return [...halves(message.index), ...halves(message.count), ...message.data]
    case 'taken':
      return halves(message.index)
    case 'refused':
      return [REFUSALS.indexOf(message.why)]
    case 'ask':
    case 'stored':
    case 'empty':
      return []
  }
}

/** The bytes of a message, with F0 and F7. Numbers of slots and pieces go as two bytes, the low seven bits first. */
export function slotBytes(message: SlotMessage): number[] {
  const inside = [message.device, OPS[message.kind], ...halves(message.slot), ...bodyOf(message)]
  return [...HEAD, ...inside, sumToZero(inside), END]
}

/** A message that was read, or why it is none. */
export type SlotRead =
  | { ok: true; message: SlotMessage }
  /** `isOurs` is false for SysEx of somebody else. */
  | { ok: false; isOurs: boolean; why: string }

const bad = (why: string, isOurs = true): SlotRead => ({ ok: false, isOurs, why })

/** Read one SysEx message, with F0 and F7. */
export function readSlotMessage(bytes: readonly number[]): SlotRead {
  if (HEAD.some((byte, index) => bytes[index] !== byte)) return bad('This SysEx is of another device.', false)
  if (bytes.at(-1) !== END) return bad('The message is cut: it has no end.')
  const inside = bytes.slice(HEAD.length, -1)
  if (inside.some((byte) => byte > 0x7f))
    return bad('A byte of more than seven bits stands inside the message.')
  const checksum = inside.at(-1)
  const said = inside.slice(0, -1)
  const [device = 0, op, low, high, ...body] = said
  if (low === undefined || high === undefined || checksum === undefined)
    return bad('The message is cut: it names no slot.')
  if (sumToZero(said) !== checksum)
    return bad('The checksum is wrong: something was lost or changed on the way.')
  const at = { device, slot: joined(low, high) }
  const [a, b, c, d, ...data] = body
  switch (op) {
    case OPS.ask:
      return { ok: true, message: { ...at, kind: 'ask' } }
    case OPS.stored:
      return { ok: true, message: { ...at, kind: 'stored' } }
    case OPS.empty:
      return { ok: true, message: { ...at, kind: 'empty' } }
    case OPS.taken:
      return a === undefined || b === undefined
        ? bad('The message is cut: it names no piece.')
        : { ok: true, message: { ...at, kind: 'taken', index: joined(a, b) } }
    case OPS.refused: {
      const why = REFUSALS[a ?? -1]
      return why === undefined
        ? bad('The hardware refused, for a reason that is not known.')
        : { ok: true, message: { ...at, kind: 'refused', why } }
    }
    case OPS.piece:
      if (a === undefined || b === undefined || c === undefined || d === undefined)
        return bad('The message is cut: it says not which piece it is.')
      return { ok: true, message: { ...at, kind: 'piece', index: joined(a, b), count: joined(c, d), data } }
    default:
      return bad(`There is no message of kind ${String(op)} in this exchange.`)
  }
}

/** Is a message for a device? 127 is for all. */
export const isFor = ({ device }: Pick<SlotMessage, 'device'>, own: number): boolean =>
  device === own || device === ALL_DEVICES
