import { parseTag, printTag, printTarget, type Channel, type Target } from '../midi'
import type { CellAddress } from '../addresses'
import { arrivedAs } from './arrival'
import {
  assignmentsOfGesture,
  channelOf,
  findGesture,
  fixedTarget,
  parameterOf,
  rigIndex,
  sentAddress,
  targetOf,
  type Destination,
  type Mapping,
  type Message,
  type Parameter,
  type Rig,
} from '../rig'

/** The address at which a mapping's parameter listens, and why: by the destination's own chart, or learned. */
export interface Expected {
  by: 'chart' | 'learning'
  /** Null where any channel will do. */
  channel: Channel | null
  target: Target
}

/** Where a parameter listens by its destination's own chart, or null if it has to learn. */
export const chartedAt = ({ fixed }: Parameter): Expected | null =>
  fixed && { by: 'chart', channel: fixed.channel, target: fixedTarget(fixed) }

/** What a mapping's destination listens at for it, or null while it has not been taught. */
export function expectedOf(mapping: Mapping, parameter: Parameter | null): Expected | null {
  const charted = parameter && chartedAt(parameter)
  if (charted) return charted
  if (mapping.learnedAt === null) return null
  const parsed = parseTag(mapping.learnedAt)
  if (!parsed.ok || parsed.address.scope !== 'channel') return null
  const { channel, target } = parsed.address
  return { by: 'learning', channel: typeof channel === 'number' ? channel : null, target }
}

/** An expected address in writing; without channel where any will do. */
export const printExpected = ({ channel, target }: Expected): string =>
  channel === null ? printTarget(target) : `${channel}:${printTarget(target)}`

/** Does a message, sent on a channel, arrive where it is expected? */
export function meetsExpected(message: Message, channel: Channel | null, expected: Expected): boolean {
  const sent = targetOf(message)
  if (sent === null || channel === null) return false
  if (expected.channel !== null && expected.channel !== channel) return false
  if (sent.kind === 'note' && expected.target.kind === 'note') {
    return sent.low <= expected.target.low && sent.high >= expected.target.high
  }
  if (sent.kind === 'program' && expected.target.kind === 'program') {
    return (
      sent.number === expected.target.number &&
      (expected.target.bank === null || printTarget(sent) === printTarget(expected.target))
    )
  }
  return printTarget(sent) === printTarget(expected.target)
}

/** Does an expected address take in a cell? (A 14-bit pair takes two.) */
export function expectedCovers({ channel, target }: Expected, cell: CellAddress): boolean {
  if (channel !== null && channel !== cell.channel) return false
  switch (target.kind) {
    case 'cc':
      return cell.space === 'cc' && cell.number === target.number
    case 'cc14':
      return cell.space === 'cc' && (cell.number === target.number || cell.number === target.number + 32)
    case 'note':
    case 'poly':
      return cell.space === target.kind && cell.number >= target.low && cell.number <= target.high
    case 'program':
    case 'nrpn':
    case 'rpn':
      return cell.space === target.kind && cell.number === target.number
    case 'bend':
    case 'pressure':
      return cell.space === target.kind
    case 'mode':
      return cell.space === 'cc' && cell.number === target.number
  }
}

export const mappingParameter = (
  rig: Rig,
  mapping: Mapping,
): { destination: Destination; parameter: Parameter } | null => {
  const destination = rigIndex(rig).destinations.get(mapping.destination)
  const parameter = destination ? parameterOf(destination, mapping.parameter) : null
  return destination && parameter ? { destination, parameter } : null
}

/**
 * Whether what a control sends is what its parameter listens for.
 * `agrees`: some layer sends the expected address. `differs`: none does. `not-taught`: nothing is
 * expected yet. `no-control`: its control is gone.
 */
export type Agreement = 'agrees' | 'differs' | 'not-taught' | 'no-control'

export interface MappingState {
  agreement: Agreement
  /** The expected address in writing, or null. */
  expected: string | null
  /** The addresses that its control sends, over all layers, each once. */
  sent: readonly string[]
  /** Those of them that arrive where they are expected. */
  meeting: readonly string[]
}

export function mappingState(rig: Rig, mapping: Mapping): MappingState {
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  const expected = expectedOf(mapping, mappingParameter(rig, mapping)?.parameter ?? null)
  const written = expected === null ? null : printExpected(expected)
  if (!found) return { agreement: 'no-control', expected: written, sent: [], meeting: [] }
  const sent = new Set<string>()
  const meeting = new Set<string>()
  for (const assignment of assignmentsOfGesture(found.controller, found.key)) {
    for (const message of assignment.messages) {
      const address = sentAddress(message, found.controller.homeChannel)
      if (!address) continue
      sent.add(printTag(address))
      const meets = arrivedAs(rig, found.controller, message, mapping.destination).some(
        (arrived) => expected && meetsExpected(arrived, channelOf(arrived, 1), expected),
      )
      if (meets) meeting.add(printTag(address))
    }
  }
  const agreement: Agreement = expected === null ? 'not-taught' : meeting.size > 0 ? 'agrees' : 'differs'
  return { agreement, expected: written, sent: [...sent], meeting: [...meeting] }
}
