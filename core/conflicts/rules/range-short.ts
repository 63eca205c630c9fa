import { drivesOf, mappingName, type Drive, type ResolvedMapping } from '../../mappings'
import { topOf, type Message, type RigEdit } from '../../rig'
import { endsOf, mappedRange, spanOf, valueText } from '../../values'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import { mappingFix } from '../fixes/mappings'
import type { Rule } from '../rule'
import { senderWords, sentAddresses } from '../words'

/** From here on a switch is on. */
const ON = 64

/** The values that a switch is sent, over all mappings that move it along with this one; a note is both. */
function switchValues(context: CheckContext, { mapping, parameter, destination }: ResolvedMapping): number[] {
  const together = context
    .resolved()
    .filter(
      (other) =>
        other.destination === destination &&
        other.parameter === parameter &&
        context.acting([], [other.mapping, mapping]),
    )
  return together
    .flatMap((other) => drivesOf(context.rig, other))
    .flatMap(({ travel }) => {
      if (travel.kind === 'points') return travel.values.map((value) => (value / travel.top) * 127)
      if (travel.kind === 'sweep')
        return [travel.at(0), travel.at(travel.count - 1)].map((value) => (value / travel.top) * 127)
      return [0, 127]
    })
}

/** Let every control of these drives send from one end to the other, the way round it does now. */
function widened(drives: readonly Drive[]): Fix[] {
  const edits = drives.flatMap(({ sender: { message, place, messageIndex } }): RigEdit[] => {
    if (!('range' in message)) return []
    const top = topOf(message) ?? 0
    const range = message.range.low > message.range.high ? { low: top, high: 0 } : { low: 0, high: top }
    return [{ type: 'message', at: place, index: messageIndex, message: { ...message, range } as Message }]
  })
  return edits.length === 0
    ? []
    : [{ id: 'widen', kind: 'widen', label: 'Let it send the whole range', edits }]
}

/** A button that says one thing only can flip what it switches, where the destination can do that. */
const flipped = ({ mapping }: ResolvedMapping): Fix[] => [
  mappingFix(`flip-${mapping.id}`, 'expect', 'Let it flip at each press', [mapping.id], {
    expects: { kind: 'press' },
  }),
]

const draftOf = (
  { rig }: CheckContext,
  { mapping, destination }: ResolvedMapping,
  drives: readonly Drive[],
  says: string,
  cures: () => Fix[],
): Draft => {
  const senders = drives.map(({ sender }) => sender)
  return {
    severity: 'warning',
    message: `${senderWords(rig, senders)} ${says}`,
    senders,
    addresses: sentAddresses(senders),
    destinations: [destination.id],
    about: mapping.id,
    cures,
  }
}

function shortSwitch(context: CheckContext, resolved: ResolvedMapping): Draft[] {
  const values = switchValues(context, resolved)
  const [isOff, isOn] = [values.some((value) => value < ON), values.some((value) => value >= ON)]
  if (values.length === 0 || (isOff && isOn)) return []
  const drives = drivesOf(context.rig, resolved)
  const name = mappingName(context.rig, resolved.mapping)
  const says = isOn
    ? `never sends a value below 64, so ${name} can be switched on but not off.`
    : `never sends a value above 63, so ${name} cannot be switched on.`
  return [draftOf(context, resolved, drives, says, isOn ? () => flipped(resolved) : () => widened(drives))]
}

function shortSweep(context: CheckContext, resolved: ResolvedMapping): Draft[] {
  const range = mappedRange(resolved.mapping, resolved.parameter)
  const short = drivesOf(context.rig, resolved).flatMap((drive) => {
    if (drive.travel.kind !== 'sweep') return []
    const ends = endsOf(drive.travel, range)
    return ends.reachesLow && ends.reachesHigh ? [] : [{ drive, ends }]
  })
  const [first] = short
  if (!first) return []
  const text = (value: number): string => valueText(resolved.parameter, value)
  const { lowest, highest } = first.ends
  const says = `brings ${mappingName(context.rig, resolved.mapping)} only from ${text(lowest)} to ${text(highest)}, not through the whole of ${text(range.min)} to ${text(range.max)}.`
  const drives = short.map(({ drive }) => drive)
  return [draftOf(context, resolved, drives, says, () => widened(drives))]
}

/** The control cannot bring its parameter to both ends, or a switch to both its states. */
export const rangeShort: Rule = {
  id: 'range-short',
  title: 'Does not reach both ends',
  topic: 'values',
  reach: 'mapping',
  find: (context) =>
    context.resolved().flatMap((resolved): Draft[] => {
      if (resolved.meeting.length === 0 || resolved.mapping.expects.kind !== 'absolute') return []
      switch (resolved.parameter.kind) {
        case 'switch':
          return spanOf(resolved.parameter).count === 2 ? shortSwitch(context, resolved) : []
        case 'continuous':
        case 'relative':
        case 'choice':
          return shortSweep(context, resolved)
        case 'action':
        case 'note':
          return []
      }
    }),
}
