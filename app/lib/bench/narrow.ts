import type { Passing } from '#core/bench'
import { isChannelMessage, type MessageKind } from '#core/midi'
import type { Id, Rig } from '#core/rig'
import { becameWords } from './runs'
import { senderName, tagOf } from './tape'

/** What of the tape is looked at; null and empty where it does not matter. */
export interface Narrowing {
  controller: Id | null
  channel: number | null
  kind: MessageKind | null
  destination: Id | null
  text: string
}
export const EVERYTHING: Narrowing = {
  controller: null,
  channel: null,
  kind: null,
  destination: null,
  text: '',
}

/** By how much the tape is narrowed. */
export const narrowedBy = (by: Narrowing): number =>
  [by.controller, by.channel, by.kind, by.destination, by.text.trim() || null].filter((each) => each !== null)
    .length

export type Passes = (passing: Passing) => boolean

/** Is a message among what is looked at? Text is sought in its control, its address and what became of it. */
export function passes(rig: Rig, by: Narrowing): Passes {
  const text = by.text.trim().toLowerCase()
  return (passing) => {
    const { message } = passing
    if (by.controller !== null && passing.controller !== by.controller) return false
    if (by.kind !== null && message?.kind !== by.kind) return false
    if (by.channel !== null && !(message && isChannelMessage(message) && message.channel === by.channel))
      return false
    if (by.destination !== null && !passing.arrived.some(({ destination }) => destination === by.destination))
      return false
    if (text === '') return true
    return [senderName(rig, passing), tagOf(passing), becameWords(rig, passing)].some((words) =>
      words.toLowerCase().includes(text),
    )
  }
}
