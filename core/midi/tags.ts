import type { Address, TagChannel } from './addresses'
import { KINDS } from './kinds'
import type { ReadTarget, TagFacet } from './kinds/kind'
import type { ChannelTarget, SystemTarget, Target } from './kinds/types'
import { isWhole } from './ranges'

/** An address read from text, or a sentence that says what is wrong with it. */
export type TagResult = { ok: true; address: Address } | { ok: false; message: string }

interface Tagged {
  scope: 'channel' | 'system'
  tag: TagFacet<Target>
}
const TAGGED = Object.values(KINDS).flatMap((kind) => ('tag' in kind ? [kind as unknown as Tagged] : []))

/** Write a target as the part of a tag after the colon. */
export const printTarget = (target: Target): string =>
  (KINDS[target.kind] as unknown as Tagged).tag.print(target)

/** Write an address tag: `5:cc74`, `home:cc74`, `cc74`, `mmc:play`. */
export function printTag(address: Address): string {
  const target = printTarget(address.target)
  return address.scope === 'system' || address.channel === null ? target : `${address.channel}:${target}`
}

const EXAMPLES = 'for example 5:cc74, 1:cc16+48, 10:note36 or 2:pc12'
const refuse = (message: string): TagResult => ({ ok: false, message })

/** What the first kind that knows a text makes of it. */
function readTarget(text: string, scope: Tagged['scope']): ReadTarget<Target> | null {
  for (const kind of TAGGED) {
    const read = kind.scope === scope ? kind.tag.read(text) : null
    if (read) return read
  }
  return null
}

function readChannel(text: string): { ok: true; channel: TagChannel } | { ok: false; message: string } {
  if (text === 'home') return { ok: true, channel: 'home' }
  if (!/^\d+$/.test(text)) {
    return { ok: false, message: `“${text}” is not a channel: use 1 to 16, or home.` }
  }
  const channel = Number(text)
  return isWhole(channel, 1, 16)
    ? { ok: true, channel }
    : { ok: false, message: `Channel ${text} is out of range: use 1 to 16, or home.` }
}

/**
 * Read an address tag as a person types it: spaces and capitals do not matter.
 * Gives the address, or a sentence saying what is wrong. Inverse of `printTag`.
 */
export function parseTag(text: string): TagResult {
  const clean = text.toLowerCase().replace(/\s+/g, '')
  if (clean === '') return refuse(`Type an address, ${EXAMPLES}.`)
  const system = readTarget(clean, 'system')
  if (system)
    return system.ok
      ? { ok: true, address: { scope: 'system', target: system.target as SystemTarget } }
      : refuse(system.message)

  const colon = clean.indexOf(':')
  const channel = colon === -1 ? { ok: true as const, channel: null } : readChannel(clean.slice(0, colon))
  if (!channel.ok) return channel
  const read = readTarget(colon === -1 ? clean : clean.slice(colon + 1), 'channel')
  if (!read) return refuse(`“${text.trim()}” is not an address; write one such as ${EXAMPLES.slice(12)}.`)
  return read.ok
    ? {
        ok: true,
        address: { scope: 'channel', channel: channel.channel, target: read.target as ChannelTarget },
      }
    : refuse(read.message)
}
