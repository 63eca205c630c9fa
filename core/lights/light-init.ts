import { DIN_BYTES_PER_MS } from '../addresses'
import { hexOf } from '../midi'
import {
  gestureName,
  modelOf,
  readingOrder,
  type Control,
  type Controller,
  type Id,
  type Rig,
  type Showing,
} from '../rig'
import { entriesFor } from './palette'
import { addressText, lightAddress, LIGHT_BYTES, type LightAddress } from './address'
import { darkOf, lightPicture, type Lit } from './picture'

/** One message that sets one light: its value is the index of what the light is to show. */
export interface LightInitMessage {
  controller: Id
  control: Id
  address: LightAddress
  value: number
  /** The message in writing: `16:cc3 = 21`. */
  text: string
}

export interface LightInit {
  messages: readonly LightInitMessage[]
  bytes: number
  /** How long it takes on a DIN cable; null where every controller is on USB. */
  dinMs: number | null
  /** Lights that cannot be set from outside, or have no number. */
  unset: readonly Control[]
}

/**
 * Every message that sets every light of some controllers to its starting state, in the order of the rig and of
 * reading. `needed` leaves out the lights that are to be dark, as they are when the hardware is switched on.
 */
export function lightInit(
  rig: Rig,
  controllers: readonly Controller[],
  showing: Readonly<Record<Id, Showing>>,
  which: 'all' | 'needed' = 'all',
): LightInit {
  const messages: LightInitMessage[] = []
  const unset: Control[] = []
  for (const controller of controllers) {
    const { lights } = modelOf(rig, controller).abilities
    const lit = new Map<Id, Lit>(
      lightPicture(rig, controller, showing).map((each) => [each.control.id, each]),
    )
    for (const control of readingOrder([...lit.values()].map((each) => each.control))) {
      const each = lit.get(control.id)
      if (!each) continue
      const address = lightAddress(rig, controller, showing[controller.id], control, each.state)
      if (!address) {
        unset.push(control)
        continue
      }
      const dark = darkOf(entriesFor(lights, control.kind))
      if (which === 'needed' && each.entry.index === dark?.index) continue
      const value = each.entry.index
      messages.push({
        controller: controller.id,
        control: control.id,
        address,
        value,
        text: `${addressText(address)} = ${value}`,
      })
    }
  }
  const onDin = new Set(
    controllers.filter((each) => modelOf(rig, each).abilities.connection === 'din').map(({ id }) => id),
  )
  const dinBytes = messages.filter(({ controller }) => onDin.has(controller)).length * LIGHT_BYTES
  return {
    messages,
    bytes: messages.length * LIGHT_BYTES,
    dinMs: onDin.size === 0 ? null : dinBytes / DIN_BYTES_PER_MS,
    unset,
  }
}

/** The bytes of one of its messages (MIDI 1.0 Detailed Specification, "Channel voice messages"); velocity 0 is dark. */
export const lightInitBytes = ({
  address: { kind, channel, number },
  value,
}: LightInitMessage): [number, number, number] => [
  (kind === 'note' ? 0x90 : 0xb0) | (channel - 1),
  number,
  value,
]

/** A wake sequence as text, a message a line, with the control it lights. */
export function lightInitText(rig: Rig, { messages }: LightInit): string {
  const lines = messages.map((message) => {
    const controller = rig.controllers.find(({ id }) => id === message.controller)
    const control =
      controller && modelOf(rig, controller).surface.controls.find(({ id }) => id === message.control)
    const hex = hexOf(lightInitBytes(message))
    const name = control ? gestureName(control, control.gestures[0] ?? 'press') : message.control
    return `${hex}  ${message.text}  ${controller?.name ?? ''}: ${name}`
  })
  return `${lines.join('\n')}\n`
}
