import { isChannelMessage, keepsState, memberChannels, travelOf } from '../../midi'
import { controlsOf, modelOf, placeKey, splitGestureKey, type Place } from '../../rig'
import type { Amount } from '../amount'
import { chosenBy, restored } from '../choosing'
import { show } from '../controller'
import { heldName, messagesAt, stepName, type Playing } from '../controller-state'
import { zoneOf } from '../express'
import { chosenAfter } from '../lights'
import { sentName } from '../send'
import type { Heard } from './attribute'

/** What a message says of the control that sent it. */
export type Change = 'pressed' | 'let-go' | null

/** Does an amount say that something is down? */
const isDown = (amount: Amount): boolean =>
  amount.kind === 'blow' ? amount.velocity > 0 : amount.kind === 'share' ? amount.of > 0 : true

/** Something was pressed, as far as what it sent says: it is held, and chooses what it chooses. */
function pressed(playing: Playing, at: number, place: Place, key: number, isKept: boolean): Change {
  const { gesture } = place
  const chosen = chosenBy(playing.rig, playing.controller, playing.state.showing, gesture)
  const held = {
    gesture,
    key,
    at,
    isLong: true,
    place: chosen.isChange ? place : null,
    before: chosen.before,
  }
  playing.state = {
    ...playing.state,
    pressedAt: { ...playing.state.pressedAt, [gesture]: at },
    chosen: chosenAfter(playing, place),
    held: isKept ? playing.state.held : { ...playing.state.held, [heldName(gesture, key)]: held },
  }
  show(playing, at, chosen.showing)
  return 'pressed'
}

function letGo(playing: Playing, at: number, { gesture }: Place, key: number): Change {
  const name = heldName(gesture, key)
  const held = playing.state.held[name]
  if (!held) return null
  const { [name]: _, ...others } = playing.state.held
  playing.state = { ...playing.state, held: others }
  show(playing, at, restored(playing.state.showing, held))
  return 'let-go'
}

/** Show the layer that something was sent in: the hardware shows it, for it has sent it. */
function follow(playing: Playing, { template, layer }: Place): void {
  const stack = playing.controller.templates
    .find(({ id }) => id === template)
    ?.stacks.find(({ layers }) => layers.some(({ id }) => id === layer))
  if (!stack || layer === null) return
  const { showing } = playing.state
  playing.state = {
    ...playing.state,
    showing: { ...showing, layers: { ...showing.layers, [stack.id]: layer } },
  }
}

/** Is this what a press still has to say, which has chosen another layer since? The hardware says it as it was pressed. */
function isOfHeld({ state }: Playing, place: Place, key: number): boolean {
  const pressedAt = state.held[heldName(place.gesture, key)]?.place
  return pressedAt !== null && pressedAt !== undefined && placeKey(pressedAt) === placeKey(place)
}

/**
 * What a controller must stand at, for it has sent this: where its movement stands, what is held, and which layer shows. Says
 * whether something was pressed or let go.
 */
export function takeOn(playing: Playing, at: number, heard: Heard, amount: Amount): Change {
  const { place, message } = heard
  if (!place || !message) return null
  if (heard.isElsewhere && !isOfHeld(playing, place, heard.key)) follow(playing, place)
  const control = controlsOf(modelOf(playing.rig, playing.controller)).get(
    splitGestureKey(place.gesture).control,
  )
  const spoken = messagesAt(playing, place).find(({ index }) => index === heard.messageIndex)
  if (!control || !spoken) return null
  // What a zone says of a note that sounds presses nothing.
  if (message.kind !== spoken.message.kind) return null
  const zone = zoneOf(spoken)
  const member =
    zone && isChannelMessage(message) ? memberChannels(zone).findIndex((on) => on === message.channel) : -1
  if (member >= 0)
    playing.state = {
      ...playing.state,
      members: { ...playing.state.members, [`${control.id} ${heard.key}`]: member },
    }
  const { gesture } = place
  const travel = travelOf(spoken.message, control)
  playing.state = {
    ...playing.state,
    sent: { ...playing.state.sent, [sentName(place, spoken, heard.key)]: heard.value },
  }
  if (travel.kind === 'sweep') {
    if (amount.kind === 'share')
      playing.state = {
        ...playing.state,
        positions: { ...playing.state.positions, [gesture]: amount.of },
      }
    return null
  }
  if (travel.kind === 'points' && travel.isKept)
    playing.state = {
      ...playing.state,
      steps: {
        ...playing.state.steps,
        [stepName(place, heard.messageIndex)]: Math.max(0, travel.values.lastIndexOf(heard.value)),
      },
    }
  if (travel.kind === 'clicks' || spoken.message.moment !== 'move') return null
  const isKept = keepsState(travel) || travel.kind === 'signal' || travel.kind === 'nothing'
  if (isKept || isDown(amount)) {
    if (!isKept && playing.state.held[heldName(gesture, heard.key)]) return null
    const isAlone = isKept || (travel.kind === 'points' && travel.values.length < 2)
    return pressed(playing, at, place, heard.key, isAlone)
  }
  return letGo(playing, at, place, heard.key)
}
