import { isWhole } from '../../midi'
import { channelOf, fitsNumber, isChannelMessage, numberOf, withChannel, withNumber } from '../messages'
import type { RigEdit } from '../edits'
import { rigIndex } from '../lookup'
import type { Place } from '../places'
import type { Message, Rig } from '../types'
import { changeProgrammed, programmedOver } from './bulk'

export type Shift = { ok: true; edits: RigEdit[]; count: number } | { ok: false; message: string }

function shifted(message: Message, home: number, channels: number, numbers: number): Message | null {
  const channel = channelOf(message, home)
  const number = numberOf(message)
  if (!isChannelMessage(message) || channel === null || number === null) return null
  const onChannel = channel + channels
  const toNumber = number + numbers
  if (!isWhole(onChannel, 1, 16) || !fitsNumber(message.kind, toNumber)) return null
  return withNumber(channels === 0 ? message : withChannel(message, onChannel), toNumber)
}

/**
 * Move what places send by so many channels and numbers, all or nothing: the run keeps its shape. Only
 * messages with one number move; pinned ones are refused. A home channel that does not change stays home.
 */
export function shiftAddresses(
  rig: Rig,
  places: readonly Place[],
  by: { channels: number; numbers: number },
): Shift {
  const all = programmedOver(rig, places)
  if (all.some(({ assignment }) => assignment.pinned))
    return { ok: false, message: 'Something of this is pinned. Unpin it to move it.' }
  const moved = all.map(({ place, assignment }) => {
    const [first] = assignment.messages
    const home = rigIndex(rig).controllers.get(place.controller)?.homeChannel ?? 1
    return first ? shifted(first, home, by.channels, by.numbers) : null
  })
  if (moved.some((message) => message === null))
    return {
      ok: false,
      message: 'Part of this would land outside what its kind can carry. Nothing was moved.',
    }
  const edits = changeProgrammed(all, ({ assignment }, index) => {
    const message = moved[index]
    return message ? { ...assignment, messages: [message, ...assignment.messages.slice(1)] } : assignment
  })
  return { ok: true, edits, count: all.length }
}
