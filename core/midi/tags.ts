import { canBePairFirst, PAIR_DISTANCE } from './controllers'
import { FOURTEEN_MAX, isWhole, SEVEN_MAX, type Channel, type Fourteen, type Seven } from './ranges'
import { MMC_NAMES, REALTIME_NAMES, type MmcCommand, type RealtimeCommand } from './transport'

/**
 * The part of an address that a channel message lands on, without its channel.
 * Numbers count from 0 as on the wire (MIDI 1.0 Detailed Specification, "Channel Voice Messages").
 */
export type Target =
  | { kind: 'cc'; number: Seven }
  | { kind: 'cc14'; number: Seven }
  | { kind: 'note'; low: Seven; high: Seven }
  | { kind: 'poly'; low: Seven; high: Seven }
  | { kind: 'nrpn'; number: Fourteen }
  | { kind: 'rpn'; number: Fourteen }
  | { kind: 'program'; number: Seven; bank: { msb: Seven; lsb: Seven } | null }
  | { kind: 'bend' }
  | { kind: 'pressure' }
  | { kind: 'mode'; number: Seven }

/** A target that belongs to no channel. */
export type SystemTarget =
  { kind: 'mmc'; command: MmcCommand } | { kind: 'realtime'; command: RealtimeCommand } | { kind: 'sysex' }

/** What stands before the colon of a tag: a channel, the controller's home channel, or nothing. */
export type TagChannel = Channel | 'home' | null

/** An address in writing. `channel` null means "leave the channel as it is". */
export type Address =
  { scope: 'channel'; channel: TagChannel; target: Target } | { scope: 'system'; target: SystemTarget }

export type TagResult = { ok: true; address: Address } | { ok: false; message: string }

const span = (low: number, high: number): string => (low === high ? `${low}` : `${low}-${high}`)

/** Write a target as the part of a tag after the colon. */
export function printTarget(target: Target | SystemTarget): string {
  switch (target.kind) {
    case 'cc':
      return `cc${target.number}`
    case 'cc14':
      return `cc${target.number}+${target.number + PAIR_DISTANCE}`
    case 'note':
      return `note${span(target.low, target.high)}`
    case 'poly':
      return `poly${span(target.low, target.high)}`
    case 'nrpn':
      return `nrpn${target.number}`
    case 'rpn':
      return `rpn${target.number}`
    case 'program':
      return target.bank === null
        ? `pc${target.number}`
        : `pc${target.bank.msb}.${target.bank.lsb}.${target.number}`
    case 'bend':
      return 'bend'
    case 'pressure':
      return 'pressure'
    case 'mode':
      return `mode${target.number}`
    case 'mmc':
      return `mmc:${target.command}`
    case 'realtime':
      return `rt:${target.command}`
    case 'sysex':
      return 'sysex'
  }
}

/** Write an address tag: `5:cc74`, `home:cc74`, `cc74`, `mmc:play`. */
export function printTag(address: Address): string {
  const target = printTarget(address.target)
  if (address.scope === 'system' || address.channel === null) return target
  return `${address.channel}:${target}`
}

const EXAMPLES = 'for example 5:cc74, 1:cc16+48, 10:note36 or 2:pc12'
const refuse = (message: string): TagResult => ({ ok: false, message })

type TargetResult = { ok: true; target: Target } | { ok: false; message: string }
const outOf = (what: string, low: number, high: number, got: number): TargetResult => ({
  ok: false,
  message: `${what} ${got} is out of range: use ${low} to ${high}.`,
})

function parseCc(body: string): TargetResult | null {
  const match = /^cc(\d+)(?:\+(\d+))?$/.exec(body)
  if (!match) return null
  const number = Number(match[1])
  if (match[2] === undefined) {
    return isWhole(number, 0, SEVEN_MAX)
      ? { ok: true, target: { kind: 'cc', number } }
      : outOf('CC', 0, SEVEN_MAX, number)
  }
  const second = Number(match[2])
  if (!canBePairFirst(number)) {
    return {
      ok: false,
      message: `A 14-bit pair starts at CC 1 to 31, but not 6; ${number} cannot start one.`,
    }
  }
  if (second !== number + PAIR_DISTANCE) {
    return {
      ok: false,
      message: `The second half of CC ${number} is ${number + PAIR_DISTANCE}, not ${second}.`,
    }
  }
  return { ok: true, target: { kind: 'cc14', number } }
}

function parseKeys(body: string): TargetResult | null {
  const match = /^(note|poly)(\d+)(?:-(\d+))?$/.exec(body)
  if (!match) return null
  const kind = match[1] as 'note' | 'poly'
  const low = Number(match[2])
  const high = match[3] === undefined ? low : Number(match[3])
  for (const note of [low, high]) {
    if (!isWhole(note, 0, SEVEN_MAX)) return outOf('Note', 0, SEVEN_MAX, note)
  }
  if (low > high) return { ok: false, message: `A span runs upwards: write ${kind}${high}-${low}.` }
  return { ok: true, target: { kind, low, high } }
}

function parseParameter(body: string): TargetResult | null {
  const match = /^(nrpn|rpn)(\d+)$/.exec(body)
  if (!match) return null
  const kind = match[1] as 'nrpn' | 'rpn'
  const number = Number(match[2])
  return isWhole(number, 0, FOURTEEN_MAX)
    ? { ok: true, target: { kind, number } }
    : outOf(kind.toUpperCase(), 0, FOURTEEN_MAX, number)
}

function parseProgram(body: string): TargetResult | null {
  const match = /^pc(?:(\d+)\.(\d+)\.)?(\d+)$/.exec(body)
  if (!match) return null
  const number = Number(match[3])
  if (!isWhole(number, 0, SEVEN_MAX)) return outOf('Program', 0, SEVEN_MAX, number)
  if (match[1] === undefined || match[2] === undefined) {
    return { ok: true, target: { kind: 'program', number, bank: null } }
  }
  const bank = { msb: Number(match[1]), lsb: Number(match[2]) }
  for (const part of [bank.msb, bank.lsb]) {
    if (!isWhole(part, 0, SEVEN_MAX)) return outOf('Bank', 0, SEVEN_MAX, part)
  }
  return { ok: true, target: { kind: 'program', number, bank } }
}

function parsePlain(body: string): TargetResult | null {
  if (body === 'bend') return { ok: true, target: { kind: 'bend' } }
  if (body === 'pressure') return { ok: true, target: { kind: 'pressure' } }
  const match = /^mode(\d+)$/.exec(body)
  if (!match) return null
  const number = Number(match[1])
  return isWhole(number, 120, SEVEN_MAX)
    ? { ok: true, target: { kind: 'mode', number } }
    : outOf('Mode', 120, SEVEN_MAX, number)
}

const TARGET_PARSERS = [parseCc, parseKeys, parseParameter, parseProgram, parsePlain] as const

function parseSystem(text: string): TagResult | null {
  if (text === 'sysex') return { ok: true, address: { scope: 'system', target: { kind: 'sysex' } } }
  const match = /^(mmc|rt):([a-z-]+)$/.exec(text)
  if (!match) return null
  if (match[1] === 'mmc') {
    const command = MMC_NAMES.find((name) => name === match[2])
    return command
      ? { ok: true, address: { scope: 'system', target: { kind: 'mmc', command } } }
      : refuse(`mmc: is followed by one of ${MMC_NAMES.join(', ')}.`)
  }
  const command = REALTIME_NAMES.find((name) => name === match[2])
  return command
    ? { ok: true, address: { scope: 'system', target: { kind: 'realtime', command } } }
    : refuse(`rt: is followed by one of ${REALTIME_NAMES.join(', ')}.`)
}

function parseChannel(text: string): { ok: true; channel: TagChannel } | { ok: false; message: string } {
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
  const system = parseSystem(clean)
  if (system) return system

  const colon = clean.indexOf(':')
  const channel = colon === -1 ? { ok: true as const, channel: null } : parseChannel(clean.slice(0, colon))
  if (!channel.ok) return channel
  const body = colon === -1 ? clean : clean.slice(colon + 1)
  for (const parse of TARGET_PARSERS) {
    const result = parse(body)
    if (!result) continue
    if (!result.ok) return result
    return { ok: true, address: { scope: 'channel', channel: channel.channel, target: result.target } }
  }
  return refuse(`“${text.trim()}” is not an address; write one such as ${EXAMPLES.slice(12)}.`)
}
