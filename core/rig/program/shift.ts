import { isWhole } from '../../midi'
import { channelOf, fitsNumber, isChannelMessage, numberOf, withChannel, withNumber } from '../messages'
import type { RigEdit } from '../edits'
import { rigIndex } from '../lookup'
import { placeKey, type Place } from '../places'
import type { Message, Rig } from '../types'
import { changeProgrammed, programmedOver } from './bulk'

/** One message of an assignment. */
export interface MessagePlace {
  place: Place
  message: number
}

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
 * Move messages by so many channels and numbers, all or nothing: the run keeps its shape. Only messages with
 * one number move; pinned ones are refused. A home channel that does not change stays home.
 */
export function shiftAddresses(
  rig: Rig,
  messages: readonly MessagePlace[],
  by: { channels: number; numbers: number },
): Shift {
  const going = new Map<string, { place: Place; messages: Set<number> }>()
  for (const { place, message } of messages) {
    const key = placeKey(place)
    const known = going.get(key) ?? { place, messages: new Set() }
    going.set(key, known)
    known.messages.add(message)
  }
  const all = programmedOver(
    rig,
    [...going.values()].map(({ place }) => place),
  )
  if (all.some(({ assignment }) => assignment.pinned))
    return { ok: false, message: 'Something of this is pinned. Unpin it to move it.' }
  const moved = all.map(({ place, assignment }) => {
    const home = rigIndex(rig).controllers.get(place.controller)?.homeChannel ?? 1
    const chosen = going.get(placeKey(place))?.messages
    return assignment.messages.map((message, index) =>
      chosen?.has(index) ? shifted(message, home, by.channels, by.numbers) : message,
    )
  })
  if (moved.some((list) => list.includes(null)))
    return {
      ok: false,
      message: 'Part of this would land outside what its kind can carry. Nothing was moved.',
    }
  const edits = changeProgrammed(all, ({ assignment }, index) => {
    const next = moved[index]?.flatMap((message) => message ?? [])
    return next ? { ...assignment, messages: next } : assignment
  })
  return { ok: true, edits, count: messages.length }
}
