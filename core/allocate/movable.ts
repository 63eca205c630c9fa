import { controllerClass } from '../midi'
import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { findGesture, mappingsOf, rigIndex, type ControlKind } from '../rig'
import { mappingParameter } from '../mappings'
import type { AllocateRequest } from './request'

/** Kinds whose number can be any other without meaning something else. */
const FREE_KINDS: ReadonlySet<string> = new Set(['cc', 'cc14', 'nrpn'])

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
  if (message.kind !== 'note') return false
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

/** Why a sender stays where it is whatever is planned, in a few words; null if it may be moved. */
export function whyFixed(context: CheckContext, request: AllocateRequest, sender: Sender): string | null {
  const { rig } = context
  const { message, place, gesture } = sender
  if (request.struck.includes(sender.key)) return 'it was struck out of the plan'
  if (request.controllers.length > 0 && !request.controllers.includes(place.controller))
    return 'its controller is not to be changed'
  const isNamed = request.gestures.includes(gesture)
  if (request.gestures.length > 0 && !isNamed) return 'it is not among what may be changed'
  const isNoteToMove = message.kind === 'note' && (isWanting(sender) || isNamed || !isPitch(context, sender))
  if (!FREE_KINDS.has(message.kind) && !isNoteToMove)
    return message.kind === 'note' || message.kind === 'poly'
      ? 'a note is a pitch or a sound'
      : 'what it sends has no number to change'
  if (isWanting(sender)) return null
  if (sender.pinned && !isNamed) return 'it is pinned'
  for (const mapping of mappingsOf(rig, gesture)) {
    const target = mappingParameter(rig, mapping)
    if (target?.parameter.fixed) return `${target.destination.name} takes only this number`
    if (target?.destination.claims.some(({ serves }) => serves.includes(mapping.parameter)))
      return 'it serves what its destination keeps the number for'
  }
  if (!isNamed && isMeantByStandard(context, sender)) return 'it sends what the standard means by its number'
  if (!isNamed && rig.accords.some(({ gestures }) => gestures.includes(gesture)))
    return 'it shares on purpose'
  return rigIndex(rig).controllers.has(place.controller) ? null : 'its controller is gone'
}
