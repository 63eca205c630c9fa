import { parseTag, printTag, type Address } from '../midi'
import type { LearnedAddress } from '../rig'

/** The address that a tag means; with its channel, as destinations learn them. */
export function addressAt(tag: string): LearnedAddress {
  const result = parseTag(tag)
  if (!result.ok) throw new Error(result.message)
  return result.address as LearnedAddress
}

/** An address in writing; null stays null. */
export const tagOf = (address: Address | null): string | null => (address ? printTag(address) : null)
export const tagsOf = (addresses: readonly Address[]): string[] => addresses.map(printTag)
