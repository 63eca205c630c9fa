import { carried } from '../../addresses'
import { isChannelMessage, type Channel, type SentMessage } from '../../midi'
import {
  channelOf,
  memoOf,
  powerUpShowing,
  rigIndex,
  withChannel,
  type Assignment,
  type Cable,
  type Controller,
  type GestureKey,
  type Id,
  type Rig,
  type Showing,
} from '../../rig'

/** One reason why what comes is not what is written, for many controls at once. */
export type Cause =
  | { kind: 'slot'; template: Id }
  | { kind: 'port'; owner: Id }
  | { kind: 'home'; channel: Channel }
  /** So many semitones up; of octaves twelve each. */
  | { kind: 'shift'; semitones: number }
  | { kind: 'layer'; stack: Id; layer: Id | null }
  | { kind: 'inverted' }
  /** The rules of the cable that it is heard behind are not there. */
  | { kind: 'rule'; cable: Id }

/** What is listened to: a controller, what it is to show, and the cable that it is heard behind, if any. */
export interface Listened {
  rig: Rig
  controller: Id
  /** What every controller is to show. */
  showings: Readonly<Record<Id, Showing>>
  behind: Id | null
}

/** What would be sent if some causes were so. */
export interface World {
  causes: readonly Cause[]
  controller: Controller
  showing: Showing
  semitones: number
  isInverted: boolean
}

const slotsOf = (cause: Cause): string => (cause.kind === 'layer' ? `layer ${cause.stack}` : cause.kind)

/** Can one more cause be so beside others? Of each kind one, of layers one a stack. */
export const goesWith = (causes: readonly Cause[], cause: Cause): boolean =>
  !causes.some((each) => slotsOf(each) === slotsOf(cause))

/** In this order causes build on one another: whose port it is decides what slots and layers there are. */
const ORDER: ReadonlyArray<Cause['kind']> = ['port', 'slot', 'layer', 'home', 'shift', 'inverted', 'rule']
const inOrder = (causes: readonly Cause[]): Cause[] =>
  [...causes].sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind))

const throughCable = memoOf((cable: Cable) =>
  memoOf((controller: Controller): Controller =>
    changedMessages(controller, (message) => {
      const sent = isChannelMessage(message)
        ? withChannel(message, channelOf(message, controller.homeChannel) ?? controller.homeChannel)
        : message
      const after = carried(cable, sent)
      return after && after.kind !== 'off' ? after : null
    }),
  ),
)

/** A controller whose messages are others; a message that becomes null is sent no more. */
function changedMessages(
  controller: Controller,
  change: (message: SentMessage) => SentMessage | null,
): Controller {
  const table = (assignments: Readonly<Record<GestureKey, Assignment>>): Record<GestureKey, Assignment> =>
    Object.fromEntries(
      Object.entries(assignments).map(([gesture, assignment]) => [
        gesture,
        {
          ...assignment,
          messages: assignment.messages.map((message) =>
            message.kind === 'off'
              ? message
              : (change(message) ?? { kind: 'off' as const, moment: message.moment }),
          ),
        },
      ]),
    )
  return {
    ...controller,
    templates: controller.templates.map((template) => ({
      ...template,
      base: table(template.base),
      stacks: template.stacks.map((stack) => ({
        ...stack,
        layers: stack.layers.map((layer) => ({ ...layer, assignments: table(layer.assignments) })),
      })),
    })),
  }
}

/** What would be sent if these causes were so; null where one of them is about something that is not there. */
export function worldOf(
  { rig, controller: id, showings, behind }: Listened,
  causes: readonly Cause[],
): World | null {
  let controller = rigIndex(rig).controllers.get(id)
  let shown = showings[id]
  let semitones = 0
  let isInverted = false
  let isRuled = true
  for (const cause of inOrder(causes)) {
    switch (cause.kind) {
      case 'port':
        controller = rigIndex(rig).controllers.get(cause.owner)
        shown = showings[cause.owner]
        break
      case 'slot':
        if (!controller?.templates.some((template) => template.id === cause.template)) return null
        shown = powerUpShowing(controller, cause.template)
        break
      case 'layer':
        if (shown) shown = { ...shown, layers: { ...shown.layers, [cause.stack]: cause.layer } }
        break
      case 'home':
        if (controller) controller = { ...controller, homeChannel: cause.channel }
        break
      case 'shift':
        semitones = cause.semitones
        break
      case 'inverted':
        isInverted = true
        break
      case 'rule':
        isRuled = false
    }
  }
  if (!controller || !shown) return null
  const cable = behind === null ? undefined : rig.cables.find((each) => each.id === behind)
  return {
    causes,
    controller: cable && isRuled ? throughCable(cable)(controller) : controller,
    showing: shown,
    semitones,
    isInverted,
  }
}
