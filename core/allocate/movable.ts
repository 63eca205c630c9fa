import { controllerClass, isChannelMessage, numberMeaning } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import {
  findGesture,
  mappingsOf,
  memoOf,
  MESSAGE_KIND_NAME,
  placeKey,
  rigIndex,
  type ControlKind,
} from '../rig'
import { mappingParameter } from '../mappings'
import { leavesChannel } from './away'
import { followersIn } from './followers'
import type { AllocateRequest } from './request'

/** What of a message can be another: number and channel, or only the channel. */
export type Freedom = 'number' | 'channel'

/** Controls on which a number that the standard names is there for what the standard names. */
const STANDARD_CONTROLS: ReadonlySet<ControlKind> = new Set([
  'wheel',
  'pedal',
  'footswitch',
  'ribbon',
  'tilt',
  'joystick',
  'keybed',
])

/** Is a note a pitch or a sound, rather than what a switch or a launcher sends? */
function isPitch({ rig }: CheckContext, { message, gesture }: Sender): boolean {
  if (!('keys' in message)) return false
  if (message.keys.kind !== 'one') return true
  const moved = mappingsOf(rig, gesture).flatMap((mapping) => mappingParameter(rig, mapping) ?? [])
  return moved.length === 0 || moved.some(({ parameter }) => parameter.kind === 'note')
}

/** Does a control send a number with a standard meaning, and nothing says that it is for something else? */
function isMeantByStandard({ rig }: CheckContext, { message, gesture }: Sender): boolean {
  if (message.kind !== 'cc' || message.number === 'wanted' || controllerClass(message.number) !== 'standard')
    return false
  const found = findGesture(rig, gesture)
  return (
    mappingsOf(rig, gesture).length === 0 &&
    found !== null &&
    found.gesture !== 'touch' &&
    STANDARD_CONTROLS.has(found.control.kind)
  )
}

const isNamed = (request: AllocateRequest, { gesture }: Sender): boolean => request.gestures.includes(gesture)

/**
 * What of a sender's message may become another, if anything; else why not, in a few words. What means something
 * by itself keeps its number, and leaves its channel only where the request names it.
 */
export function freedomOf(
  context: CheckContext,
  request: AllocateRequest,
  sender: Sender,
): { free: Freedom } | { why: string } {
  const { message } = sender
  const onlyChannel = (why: string): { free: Freedom } | { why: string } =>
    isNamed(request, sender) || leavesChannel(request, sender) ? { free: 'channel' } : { why }
  const name = MESSAGE_KIND_NAME[message.kind]
  if (!isChannelMessage(message)) return { why: `${name} belongs to no channel` }
  if (message.kind === 'polyPressure' && followersIn(context).leaderOf(sender))
    return { why: 'it goes where the note of its control goes' }
  if ('keys' in message && message.keys.kind === 'zone')
    return { why: 'a zone has its channels by the standard' }
  if ('keys' in message && message.keys.kind === 'span') return onlyChannel('keys are pitches')
  switch (numberMeaning(message)) {
    case 'nothing':
      return { free: 'number' }
    case 'sound':
      if (isWanting(sender) || (message.kind === 'note' && !isPitch(context, sender)))
        return { free: 'number' }
      // A pitch that leaves its channel stays that pitch, even if it is named.
      return message.kind === 'note' && isNamed(request, sender) && !leavesChannel(request, sender)
        ? { free: 'number' }
        : onlyChannel(`a ${name} is a sound`)
    case 'standard':
      return isWanting(sender)
        ? { why: `which ${name} of the standard it means is for you to say` }
        : onlyChannel('its number has a meaning by the standard')
    case null:
      return onlyChannel(`${name} has no number to change`)
  }
}

const setOf = memoOf((list: readonly string[]): ReadonlySet<string> => new Set(list))

/** Why a request leaves a sender out, in a few words; null if it is among what may be changed. */
export function whyLeftOut(request: AllocateRequest, sender: Sender): string | null {
  if (setOf(request.struck).has(sender.key)) return 'it was struck out of the plan'
  if (request.controllers.length > 0 && !request.controllers.includes(sender.place.controller))
    return 'its controller is not to be changed'
  if (request.gestures.length > 0 && !isNamed(request, sender)) return 'it is not among what may be changed'
  return null
}

/**
 * Why a sender stays where it is whatever is planned, in a few words; null if it may be moved.
 *
 * @param unpinned The place (`placeKey`) whose pin does not count.
 */
export function whyFixed(
  context: CheckContext,
  request: AllocateRequest,
  sender: Sender,
  unpinned: string | null = null,
): string | null {
  const { rig } = context
  const { place, gesture } = sender
  const leftOut = whyLeftOut(request, sender)
  if (leftOut !== null) return leftOut
  const named = isNamed(request, sender)
  const freedom = freedomOf(context, request, sender)
  if ('why' in freedom) return freedom.why
  if (isWanting(sender)) return null
  if (sender.pinned && !named && placeKey(place) !== unpinned) return 'it is pinned'
  for (const mapping of mappingsOf(rig, gesture)) {
    const target = mappingParameter(rig, mapping)
    if (target?.parameter.fixed) return `${target.destination.name} takes only this number`
    if (target?.destination.claims.some(({ serves }) => serves.includes(mapping.parameter)))
      return 'it serves what its destination keeps the number for'
  }
  if (!named && rig.accords.some(({ gestures }) => gestures.includes(gesture))) return 'it shares on purpose'
  if (!named && freedom.free === 'number' && isMeantByStandard(context, sender))
    return 'it sends what the standard means by its number'
  return rigIndex(rig).controllers.has(place.controller) ? null : 'its controller is gone'
}
