import { landedAt } from '../../addresses'
import { channelOf, isChannelMessage, type SentMessage } from '../../midi'
import {
  assignmentsAt,
  choiceWords,
  findGesture,
  gestureName,
  powerUpShowing,
  shownPlace,
  splitGestureRef,
  type GestureRef,
  type Id,
  type Rig,
} from '../../rig'
import { pass, lose, type TraceFrom, type Walk } from './walk'

/** Who can make a stack show a layer, in words. */
const choosers = (rig: Rig, controller: Id, stack: Id): string[] =>
  rig.choices
    .filter(({ targets }) =>
      targets.some(
        (target) => target.kind === 'layers' && target.controller === controller && target.stack === stack,
      ),
    )
    .map((choice) => choiceWords(rig, choice))

/** From the control to what it sends in the layer that shows; null where it sends nothing. */
export function spoken(walk: Walk, from: TraceFrom, ref: GestureRef): SentMessage[] | null {
  const { rig, stations } = walk
  const found = findGesture(rig, ref)
  if (!found) {
    pass(walk, 'control', 'The control', 'is gone')
    return lose(walk, 'The control is gone from its surface.', 'Join the parameter to another control.')
  }
  const { controller, control } = found
  const name = gestureName(control, found.gesture)
  pass(walk, 'control', name, controller.name)
  if (!controller.inUse)
    return lose(walk, `${controller.name} is put away.`, 'Take it into use again on its card.')
  if (control.silent)
    return lose(walk, `${name} is purely analog and sends nothing.`, 'Choose another control.')
  const { gesture } = splitGestureRef(ref)
  const showing = from.showing?.[controller.id] ?? powerUpShowing(controller)
  const template = controller.templates.find(({ id }) => id === showing.template)
  const place = shownPlace(controller, showing, gesture)
  if (!place) {
    const stack = template?.stacks.find(({ gestures }) => gestures.includes(gesture))
    const [first] = stack ? choosers(rig, controller.id, stack.id) : []
    pass(walk, 'layer', stack?.name ?? 'its layers', 'shows no layer')
    return lose(
      walk,
      `${stack?.name ?? 'Its stack'} of ${controller.name} shows no layer, so ${name} sends nothing.`,
      first ? `First: ${first}.` : 'Give the stack a layer at power-up, or something that chooses one.',
    )
  }
  const layer = template?.stacks.flatMap(({ layers }) => layers).find(({ id }) => id === place.layer)
  const messages = assignmentsAt(controller, place)?.[gesture]?.messages ?? []
  const sent = messages.flatMap((message): SentMessage[] => (message.kind === 'off' ? [] : [message]))
  if (sent.length === 0) {
    pass(walk, 'layer', layer?.name ?? template?.name ?? '', 'sends nothing')
    return lose(
      walk,
      `${name} sends nothing${layer ? ` in ${layer.name}` : ''}.`,
      'Give it a message on the Desk.',
    )
  }
  if (layer) pass(walk, 'layer', layer.name, 'the layer that shows')
  const out = sent.map((message): SentMessage => {
    const channel = channelOf(message, controller.homeChannel)
    return channel === null || !isChannelMessage(message) ? message : { ...message, channel }
  })
  if (out.every((message) => landedAt(message).length === 0)) {
    pass(walk, 'message', 'no number yet', 'a number is wanted')
    return lose(walk, `${name} has no number yet.`, 'Type an address, or let a plan give one.')
  }
  return stations.length > 0 ? out : null
}
