import { controllerClass } from '../../midi'
import { partOf, sendersIn, type Occupancy, type Sender } from '../../addresses'
import { contextOf } from '../context'
import type { IslandOf } from './island'

/** A channel and controller number that the standard says something about, as one number; else null. */
function spokenOf({ message, channel }: Sender): number | null {
  if ((message.kind !== 'cc' && message.kind !== 'cc14') || message.number === 'wanted') return null
  const kind = controllerClass(message.number)
  return kind === 'standard' || kind === 'mode' || kind === 'bank-select'
    ? channel * 128 + message.number
    : null
}

const known = new WeakMap<readonly Sender[], ReadonlyMap<number, readonly Sender[]>>()

/** The senders of one controller that use such numbers, by number. */
function spokenIn(senders: readonly Sender[]): ReadonlyMap<number, readonly Sender[]> {
  const before = known.get(senders)
  if (before) return before
  const found = new Map<number, Sender[]>()
  for (const sender of senders) {
    const number = spokenOf(sender)
    if (number === null) continue
    const list = found.get(number)
    if (list) list.push(sender)
    else found.set(number, [sender])
  }
  known.set(senders, found)
  return found
}

/** Everyone who sends one of the well-known or kept numbers that a change touches, on its channel. */
export const numberIsland: IslandOf = ({ before, after, change }) => {
  const touched = new Set([...change.gone, ...change.come].flatMap((sender) => spokenOf(sender) ?? []))
  if (touched.size === 0) return null
  const within = (whole: Occupancy) => {
    const senders = whole.rig.controllers.flatMap((controller, position) => {
      if (!controller.inUse) return []
      const spoken = spokenIn(sendersIn(controller, position))
      return [...touched].flatMap((number) => spoken.get(number) ?? [])
    })
    return contextOf(whole.rig, { occupancy: partOf(whole, senders) })
  }
  return { before: within(before), after: within(after) }
}
