import type { Id, Template } from '../../rig'
import { isFor, readSlotMessage, slotBytes, type Refusal, type SlotMessage } from './exchange'
import { piecesOf, templateIn } from './template-bytes'

/** The memory of simulated hardware. Plain data. */
export interface Hardware {
  device: number
  model: Id
  /** How many slots it has. */
  slots: number
  held: Readonly<Record<number, Template>>
  /** What is just coming in: nothing of it is stored until it is whole. */
  incoming: { slot: number; count: number; pieces: ReadonlyArray<readonly number[]> } | null
  /** What it is asked to do wrong. */
  does: ReadonlySet<HardwareTrouble>
}

/** What simulated hardware can be asked to do wrong. */
export const HARDWARE_TROUBLES = ['silent', 'busy', 'stops', 'garbles'] as const
export type HardwareTrouble = (typeof HARDWARE_TROUBLES)[number]
export const TROUBLE_WORDS: Readonly<Record<HardwareTrouble, string>> = {
  silent: 'never answers',
  busy: 'says that it is busy',
  stops: 'stops in the middle of a transfer',
  garbles: 'sends bytes that are damaged',
}

/** Hardware that stops does so after so many pieces. */
const STOPS_AFTER = 2

interface Answer {
  hardware: Hardware
  replies: ReadonlyArray<readonly number[]>
}

/** What hardware does with one SysEx message that comes in, and what it answers. */
export function answer(hardware: Hardware, bytes: readonly number[]): Answer {
  const { does } = hardware
  const read = readSlotMessage(bytes)
  const silent: Answer = { hardware, replies: [] }
  if (does.has('silent')) return silent
  if (!read.ok) {
    // What is damaged names no slot that could be trusted.
    return read.isOurs
      ? {
          hardware,
          replies: [slotBytes({ device: hardware.device, slot: 0, kind: 'refused', why: 'checksum' })],
        }
      : silent
  }
  const { message } = read
  if (!isFor(message, hardware.device)) return silent
  const done = does.has('busy') ? refuse(hardware, message, 'busy') : taken(hardware, message)
  return does.has('garbles') ? { ...done, replies: done.replies.map(garbled) } : done
}

const garbled = (bytes: readonly number[]): readonly number[] =>
  bytes.map((byte, index) => (index === bytes.length - 3 ? (byte ^ 1) & 0x7f : byte))

const refuse = (hardware: Hardware, { slot }: SlotMessage, why: Refusal): Answer => ({
  hardware: { ...hardware, incoming: null },
  replies: [slotBytes({ device: hardware.device, slot, kind: 'refused', why })],
})

function taken(hardware: Hardware, message: SlotMessage): Answer {
  const { device, model, slots, held } = hardware
  const { slot } = message
  if (slot < 1 || slot > slots) return refuse(hardware, message, 'no-such-slot')
  switch (message.kind) {
    case 'ask': {
      const template = held[slot]
      if (!template) return { hardware, replies: [slotBytes({ device, slot, kind: 'empty' })] }
      const pieces = piecesOf(model, template)
      const sent = hardware.does.has('stops') ? pieces.slice(0, STOPS_AFTER) : pieces
      return {
        hardware,
        replies: sent.map((data, index) =>
          slotBytes({ device, slot, kind: 'piece', index, count: pieces.length, data }),
        ),
      }
    }
    case 'piece':
      return takePiece(hardware, message)
    case 'taken':
    case 'stored':
    case 'empty':
    case 'refused':
      return { hardware, replies: [] }
  }
}

function takePiece(hardware: Hardware, message: Extract<SlotMessage, { kind: 'piece' }>): Answer {
  const { device, model } = hardware
  const { slot, index, count, data } = message
  const before = index === 0 ? { slot, count, pieces: [] } : hardware.incoming
  // A piece that comes a second time was not heard to be taken: it counts once.
  if (before && before.slot === slot && index === before.pieces.length - 1 && index > 0)
    return { hardware, replies: [slotBytes({ device, slot, kind: 'taken', index })] }
  if (!before || before.slot !== slot || before.count !== count || before.pieces.length !== index)
    return refuse(hardware, message, 'order')
  if (hardware.does.has('stops') && index >= STOPS_AFTER) return { hardware, replies: [] }
  const pieces = [...before.pieces, data]
  if (pieces.length < count)
    return {
      hardware: { ...hardware, incoming: { slot, count, pieces } },
      replies: [slotBytes({ device, slot, kind: 'taken', index })],
    }
  const read = templateIn(pieces, model)
  if (!read.ok) return refuse(hardware, message, read.isOtherModel ? 'other-model' : 'not-a-template')
  return {
    hardware: { ...hardware, incoming: null, held: { ...hardware.held, [slot]: read.template } },
    replies: [slotBytes({ device, slot, kind: 'stored' })],
  }
}
