import type { Sender } from '../addresses'
import type { SentMessage } from '../midi'
import { findGesture, memo, type Control, type Destination, type Parameter, type Rig } from '../rig'
import { travelOf, type Travel } from '../values'
import { drivingMessages, type ResolvedMapping } from './resolved'

/** One message that moves a mapping's parameter: as it arrives, and what its control makes it do. */
export interface Drive {
  sender: Sender
  message: SentMessage
  travel: Travel
}

interface Driving {
  rig: Rig
  resolved: ResolvedMapping
  /** The control of each sender that meets the mapping. */
  controls: ReadonlyArray<Control | null>
}

const drive = memo(
  ({ resolved, controls }: Driving) => [resolved, ...controls],
  ({ rig, resolved, controls }): readonly Drive[] =>
    resolved.meeting.flatMap((sender, index): Drive[] => {
      const control = controls[index]
      if (!control) return []
      return drivingMessages(rig, sender, resolved).map((message) => ({
        sender,
        message,
        travel: travelOf(message, control),
      }))
    }),
)

/** What moves the parameter of a mapping, over all templates and layers. */
export const drivesOf = (rig: Rig, resolved: ResolvedMapping): readonly Drive[] =>
  drive({
    rig,
    resolved,
    controls: resolved.meeting.map(({ gesture }) => findGesture(rig, gesture)?.control ?? null),
  })

/** Can a parameter that is relative to a selection be this one at times? */
export const standsFor = (relative: Parameter, other: Parameter): boolean =>
  relative.kind === 'relative' && other.kind !== 'relative' && relative.standsFor === other.name

/** One name for all mappings that may move the same thing: those of a parameter, and of what stands for it. */
export const drivenGroups = (
  { id }: Destination,
  { id: parameter, name, kind, standsFor: stands }: Parameter,
): string[] => [`${id}/${parameter}`, `${id} ${kind === 'relative' ? (stands ?? '') : name}`]
