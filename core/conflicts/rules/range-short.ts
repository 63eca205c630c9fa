import { drivesOf, inForceTogether, mappingName, type Drive, type Join } from '../../mappings'
import type { RigEdit } from '../../rig'
import { endsOf, mappedRange, spanOf, valueText } from '../../values'
import { aboutMapping } from '../about-mapping'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** From here on a switch is on. */
const ON = 64

/** The values that a switch is sent, over all mappings that move it along with this one; a note is both. */
function switchValues({ rig, joins }: CheckContext, { mapping, parameter, destination }: Join): number[] {
  const together = joins().filter(
    (other) =>
      other.destination === destination &&
      other.parameter === parameter &&
      inForceTogether(rig, other.mapping, mapping),
  )
  return together
    .flatMap((other) => drivesOf(rig, other))
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
    const top = message.kind === 'cc' || message.kind === 'pressure' || message.kind === 'poly' ? 127 : 16383
    const range = message.range.low > message.range.high ? { low: top, high: 0 } : { low: 0, high: top }
    return [{ type: 'message', at: place, index: messageIndex, message: { ...message, range } }]
  })
  return edits.length === 0
    ? []
    : [{ id: 'widen', kind: 'widen', label: 'Let it send the whole range', edits }]
}

/** A button that says one thing only can flip what it switches, where the destination can do that. */
const flipped = ({ mapping }: Join): Fix[] => [
  {
    id: `flip-${mapping.id}`,
    kind: 'expect',
    label: 'Let it flip at each press',
    edits: [{ type: 'mapping-set', mapping: mapping.id, set: { expects: { kind: 'press' } } }],
  },
]

const draftOf = (
  { rig }: CheckContext,
  join: Join,
  drives: readonly Drive[],
  says: string,
  fixes: Fix[],
): Draft => {
  const senders = drives.map(({ sender }) => sender)
  return aboutMapping(join, 'warning', `${senderWords(rig, senders)} ${says}`, senders, fixes)
}

function shortSwitch(context: CheckContext, join: Join): Draft[] {
  const values = switchValues(context, join)
  const [isOff, isOn] = [values.some((value) => value < ON), values.some((value) => value >= ON)]
  if (values.length === 0 || (isOff && isOn)) return []
  const drives = drivesOf(context.rig, join)
  const name = mappingName(context.rig, join.mapping)
  const says = isOn
    ? `never sends a value below 64, so ${name} can be switched on but not off.`
    : `never sends a value above 63, so ${name} cannot be switched on.`
  return [draftOf(context, join, drives, says, isOn ? flipped(join) : widened(drives))]
}

function shortSweep(context: CheckContext, join: Join): Draft[] {
  const range = mappedRange(join.mapping, join.parameter)
  const short = drivesOf(context.rig, join).flatMap((drive) => {
    if (drive.travel.kind !== 'sweep') return []
    const ends = endsOf(drive.travel, range)
    return ends.reachesLow && ends.reachesHigh ? [] : [{ drive, ends }]
  })
  const [first] = short
  if (!first) return []
  const text = (value: number): string => valueText(join.parameter, value)
  const { lowest, highest } = first.ends
  const says = `brings ${mappingName(context.rig, join.mapping)} only from ${text(lowest)} to ${text(highest)}, not through the whole of ${text(range.min)} to ${text(range.max)}.`
  const drives = short.map(({ drive }) => drive)
  return [draftOf(context, join, drives, says, widened(drives))]
}

/** The control cannot bring its parameter to both ends, or a switch to both its states. */
export const rangeShort: Rule = {
  id: 'range-short',
  title: 'Does not reach both ends',
  reach: 'mapping',
  find: (context) =>
    context.joins().flatMap((join): Draft[] => {
      if (join.meeting.length === 0 || join.mapping.expects.kind !== 'absolute') return []
      switch (join.parameter.kind) {
        case 'switch':
          return spanOf(join.parameter).count === 2 ? shortSwitch(context, join) : []
        case 'continuous':
        case 'relative':
        case 'choice':
          return shortSweep(context, join)
        case 'action':
        case 'note':
          return []
      }
    }),
}
