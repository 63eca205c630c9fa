import { drivesOf, inForceTogether, mappingName, standsFor, type Join } from '../../mappings'
import { aboutMapping } from '../about-mapping'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import type { Rule } from '../rule'
import { senderWords } from '../words'

/** Mappings of other controls that move the same thing. */
const others = ({ rig, joins }: CheckContext, join: Join): Join[] =>
  joins().filter(
    (other) =>
      other.meeting.length > 0 &&
      other.mapping.gesture !== join.mapping.gesture &&
      other.destination === join.destination &&
      (other.parameter === join.parameter || standsFor(other.parameter, join.parameter)) &&
      inForceTogether(rig, other.mapping, join.mapping),
  )

const feedBack = ({ mapping, destination }: Join): Fix[] =>
  destination.feedback
    ? [
        {
          id: `feed-back-${mapping.id}`,
          kind: 'feed-back',
          label: 'Let the destination say what it is',
          edits: [{ type: 'mapping-set', mapping: mapping.id, set: { feedback: true } }],
        },
      ]
    : []

/** On and off are kept in the hardware, something else can change the parameter, and the button is not told. */
export const toggleDrift: Rule = {
  id: 'toggle-drift',
  title: 'Button and destination drift apart',
  reach: 'mapping',
  find: (context) =>
    context.joins().flatMap((join): Draft[] => {
      if (join.mapping.expects.kind !== 'absolute' || join.parameter.kind === 'action') return []
      if (join.mapping.feedback && join.destination.feedback) return []
      const kept = drivesOf(context.rig, join).filter(
        ({ travel }) => travel.kind === 'points' && travel.isKept && travel.values.length > 1,
      )
      if (kept.length === 0) return []
      const movers = others(context, join)
      if (movers.length === 0) return []
      const senders = kept.map(({ sender }) => sender)
      const who = senderWords(
        context.rig,
        movers.flatMap(({ meeting }) => meeting.slice(0, 1)),
      )
      const name = mappingName(context.rig, join.mapping)
      const message = `${senderWords(context.rig, senders)} keeps on and off in the hardware and is not told when ${who} changes ${name}: a press may then do nothing.`
      return [aboutMapping(join, 'warning', message, senders, feedBack(join))]
    }),
}
