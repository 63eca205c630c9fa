import { decodeWire, readMessage, READ_START, WIRE_START, type Reading } from '../midi/bytes'
import { travelOf } from '../midi'
import {
  controlsOf,
  memoOf,
  modelOf,
  splitGestureKey,
  type Choice,
  type Controller,
  type GestureKey,
  type Id,
  type Rig,
} from '../rig'
import { amountOf } from './amount'
import { stepName, type ControllerState } from './controller-state'
import { attribute } from './heard/attribute'
import { litBy } from './lights'

type Incoming = Extract<Choice['by'], { kind: 'incoming' }>

/** The choices that each controller makes by what comes in. */
const incomingOf = memoOf((rig: Rig) => {
  const found = new Map<Id, Array<{ choice: Choice; by: Incoming }>>()
  for (const choice of rig.choices)
    if (choice.by.kind === 'incoming')
      found.set(choice.by.controller, [...(found.get(choice.by.controller) ?? []), { choice, by: choice.by }])
  return found
})

/** Does a message set off a choice? */
function sets({ trigger }: Incoming, bytes: readonly number[]): boolean {
  const [status = 0, number = 0, value = 0] = bytes
  if ((status & 15) + 1 !== trigger.channel || number !== trigger.number) return false
  switch (trigger.kind) {
    case 'program':
      return (status & 0xf0) === 0xc0
    case 'cc':
      return (status & 0xf0) === 0xb0 && value === trigger.value
    case 'note':
      return (status & 0xf0) === 0x90 && value > 0
  }
}

/** The choices that bytes set off which come in at a controller. */
export function choicesSetOff(rig: Rig, controller: Id, bytes: readonly number[]): Choice[] {
  const all = incomingOf(rig).get(controller)
  if (!all) return []
  return decodeWire(WIRE_START, bytes, 0).events.flatMap((event) =>
    event.kind === 'message' ? all.flatMap(({ choice, by }) => (sets(by, event.bytes) ? [choice] : [])) : [],
  )
}

/** The non-commercial id (MIDI 1.0 Detailed Specification, "System Exclusive Messages"), with no family, member or version. */
const REPLY = [0x06, 0x02, 0x7d, 0, 0, 0, 0, 0, 0, 0, 0]
const ALL_DEVICES = 0x7f

/** The answer to an identity request that is meant for a controller (Universal SysEx, "Device Inquiry"); else null. */
function identityReply({ deviceNumber }: Controller, reading: Reading): number[] | null {
  if (reading.kind !== 'sysex' || reading.of !== 'identity-request') return null
  const isMeant = reading.device === ALL_DEVICES || reading.device === deviceNumber
  return isMeant ? [0xf0, 0x7e, deviceNumber, ...REPLY, 0xf7] : null
}

/** A destination has said what a control's parameter stands at: the light, the toggle or the encoder follows. */
function followed(
  rig: Rig,
  controller: Controller,
  state: ControllerState,
  to: GestureKey | 'whoever',
  reading: Reading,
): ControllerState {
  const heard = attribute(controller, state, reading)
  if (!heard?.place || !heard.message) return state
  const { gesture } = heard.place
  const { control: id } = splitGestureKey(gesture)
  const control = controlsOf(modelOf(rig, controller)).get(id)
  if (!control || (to !== 'whoever' && to !== gesture)) return state
  const top = reading.kind === 'value' ? reading.top : 127
  const value = reading.kind === 'value' ? reading.value : heard.value
  const lit: ControllerState = {
    ...state,
    lights: { ...state.lights, [id]: { by: 'value', value: Math.round((value / top) * 127) } },
  }
  const travel = travelOf(heard.message, control)
  if (travel.kind === 'points' && travel.isKept) {
    const step = value * 2 > top ? travel.values.length - 1 : 0
    return { ...lit, steps: { ...lit.steps, [stepName(heard.place, heard.messageIndex)]: step } }
  }
  const amount = amountOf(heard.message, heard.value, control)
  if (travel.kind === 'sweep' && control.kind === 'encoder' && amount.kind === 'share')
    return { ...lit, positions: { ...lit.positions, [gesture]: amount.of } }
  return lit
}

/**
 * What a controller remembers after whole messages have come in at it, and what it answers. What says where a parameter stands is
 * for the gesture that is named, or for whoever sends the same; null where it sets lights only.
 */
export function comeIn(
  rig: Rig,
  controller: Controller,
  before: ControllerState,
  bytes: readonly number[],
  feedbackTo: GestureKey | 'whoever' | null = null,
): { state: ControllerState; replies: readonly number[][] } {
  let state = before
  let read = READ_START
  const replies: number[][] = []
  for (const event of decodeWire(WIRE_START, bytes, 0).events) {
    if (event.kind === 'fault') continue
    const next = readMessage(read, event.bytes)
    read = next.state
    const reply = identityReply(controller, next.reading)
    if (reply) replies.push(reply)
    if (feedbackTo !== null && feedbackTo !== 'whoever') {
      state = followed(rig, controller, state, feedbackTo, next.reading)
      continue
    }
    const lights = litBy(rig, controller, state, event.bytes)
    // What sets a light says that, and not where something stands.
    if (lights !== state.lights) state = { ...state, lights }
    else if (feedbackTo === 'whoever') state = followed(rig, controller, state, feedbackTo, next.reading)
  }
  return { state, replies }
}
