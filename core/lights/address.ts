import { printTag, type Address, type Channel } from '../midi'
import {
  channelOf,
  modelOf,
  numberOf,
  programmedAt,
  shownPlace,
  type Control,
  type Controller,
  type Rig,
  type Showing,
} from '../rig'

/** Where a light is set: the message kind, the channel and the number that name it. */
export interface LightAddress {
  kind: 'note' | 'cc'
  channel: Channel
  number: number
}

/** Every light is set by one message of three bytes. */
export const LIGHT_BYTES = 3

/**
 * By which message the light of a control is set in what is shown; null where nothing sets it. Where the channel says how
 * a light burns, a state that is called like one of its meanings is sent there, others on the first.
 */
export function lightAddress(
  rig: Rig,
  controller: Controller,
  showing: Showing | undefined,
  control: Control,
  state: string | null = null,
): LightAddress | null {
  const { lights } = modelOf(rig, controller).abilities
  if (!lights || lights.setBy.kind === 'fixed') return null
  const [gesture] = control.gestures
  const place = showing && gesture ? shownPlace(controller, showing, `${control.id}.${gesture}`) : null
  const sent = place ? programmedAt(rig, place)?.assignment.messages[0] : undefined
  const number = control.lightNumber ?? (sent ? numberOf(sent) : null)
  if (number === null || number > 127) return null
  const own = (sent && channelOf(sent, controller.homeChannel)) ?? controller.homeChannel
  switch (lights.setBy.kind) {
    case 'note-velocity':
      return { kind: 'note', channel: own, number }
    case 'cc-value':
      return { kind: 'cc', channel: lights.setBy.channel ?? own, number }
    case 'channel-meaning': {
      const { meanings } = lights.setBy
      const meant =
        meanings.find(({ meaning }) => meaning.toLowerCase() === state?.toLowerCase()) ?? meanings[0]
      return { kind: 'note', channel: meant?.channel ?? own, number }
    }
  }
}

/** Where a light's message lands. */
export const toAddress = ({ kind, channel, number }: LightAddress): Address => ({
  scope: 'channel',
  channel,
  target: kind === 'cc' ? { kind, number } : { kind, low: number, high: number },
})

/** The address of a light in writing. */
export const addressText = (address: LightAddress): string => printTag(toAddress(address))

/** The lights of a controller that a message from outside sets, in what is shown. */
export const settableLights = (rig: Rig, controller: Controller, showing: Showing | undefined): Control[] => {
  const { surface, abilities } = modelOf(rig, controller)
  return surface.controls.filter(
    (control) =>
      (abilities.lights?.levels[control.kind] ?? 'none') !== 'none' &&
      lightAddress(rig, controller, showing, control) !== null,
  )
}
