import type { Channel } from './ranges'
import type { ChannelTarget, SystemTarget, Target } from './kinds/types'

/** What stands before the colon of a tag: a channel, the controller's home channel, or nothing. */
export type TagChannel = Channel | 'home' | null

/** Where a message lands on a channel; `channel` null means any, or "leave the channel as it is". */
export interface ChannelAddress {
  scope: 'channel'
  channel: TagChannel
  target: ChannelTarget
}

/** Where a message lands that belongs to no channel. */
export interface SystemAddress {
  scope: 'system'
  target: SystemTarget
}

/** Where a message lands. Printed and read as a tag (`tags.ts`). */
export type Address = ChannelAddress | SystemAddress

const samePart = (a: unknown, b: unknown): boolean => {
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b
  const keys = Object.keys(a) as Array<keyof typeof a>
  return keys.length === Object.keys(b).length && keys.every((key) => samePart(a[key], b[key]))
}

/** Are two targets the same in every field, the bank of a program included? */
export const sameTarget = (a: Target, b: Target): boolean => a === b || samePart(a, b)

/** Are two addresses the same, channel included? */
export const sameAddress = (a: Address, b: Address): boolean =>
  a === b ||
  (a.scope === 'channel'
    ? b.scope === 'channel' && a.channel === b.channel && sameTarget(a.target, b.target)
    : b.scope === 'system' && sameTarget(a.target, b.target))

/** Addresses each once, in the order in which they first stand. */
export function distinctAddresses(addresses: readonly Address[]): Address[] {
  const kept: Address[] = []
  for (const address of addresses) if (!kept.some((other) => sameAddress(other, address))) kept.push(address)
  return kept
}
