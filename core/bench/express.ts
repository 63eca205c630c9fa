import { expressionOn, memberChannels, travelOf, zoneConfiguration, bytesOf, type Expression } from '../midi'
import { placeKey, splitGestureKey, type GestureKey, type Place } from '../rig'
import { indexAt } from './amount'
import { controlAt, messagesAt, placeOf, type Playing, type Spoken, type Zone } from './controller-state'

/** The zone that a message plays, if it plays one. */
export const zoneOf = ({ message }: Spoken): Zone | null =>
  message.kind === 'note' && message.keys.kind === 'zone' ? message.keys : null

/** The member channel that a held key of a control plays on; null while it is not held. */
export const memberHeldBy = (
  { state }: Pick<Playing, 'state'>,
  zone: Zone,
  control: string,
  key: number,
): number | null => {
  const index = state.members[`${control} ${key}`]
  return index === undefined ? null : (memberChannels(zone)[index] ?? null)
}

/** Bend, lean into or slide along one held key: said on its member channel alone. Nothing where the keys are no zone. */
export function express(
  playing: Playing,
  at: number,
  gesture: GestureKey,
  key: number,
  what: Expression,
  to: number,
): void {
  const place = placeOf(playing, gesture)
  const control = controlAt(playing, gesture)
  if (!place || !control || control.silent) return
  for (const each of messagesAt(playing, place)) {
    const zone = zoneOf(each)
    const channel = zone && memberHeldBy(playing, zone, control.id, key)
    if (channel === null) continue
    const message = expressionOn(channel)[what]
    const travel = travelOf(message, control)
    if (travel.kind !== 'sweep') continue
    const value = travel.at(indexAt(to, travel.count))
    const name = `${placeKey(place)}#${each.index} ${what} ${channel}`
    if (playing.state.sent[name] === value) continue
    playing.state = { ...playing.state, sent: { ...playing.state.sent, [name]: value } }
    playing.sent.push({
      at,
      place,
      messageIndex: each.index,
      message,
      amount: { kind: 'share', of: Math.min(1, Math.max(0, to)) },
      value,
      key,
      bytes: bytesOf(message, { channel, value, previous: null, key, device: 0 }),
    })
  }
}

const DATA_MSB_SHIFT = 7

/** Before its first note a zone says how many members it has, as hardware does when it is switched on. */
export function configureZone(playing: Playing, at: number, place: Place, each: Spoken): void {
  const zone = zoneOf(each)
  const name = `${placeKey(place)}#${each.index} zone`
  if (!zone || playing.state.sent[name] === zone.members) return
  const message = zoneConfiguration(zone)
  const value = zone.members << DATA_MSB_SHIFT
  playing.state = {
    ...playing.state,
    sent: { ...playing.state.sent, [name]: zone.members },
    selected: { ...playing.state.selected, [zone.manager]: '' },
  }
  playing.sent.push({
    at,
    place,
    messageIndex: each.index,
    message,
    amount: { kind: 'share', of: 1 },
    value,
    key: 0,
    bytes: bytesOf(message, { channel: zone.manager, value, previous: null, key: 0, device: 0 }),
  })
}

/** The held key of a gesture that plays on a member channel; null where none is known to. */
export function keyOnMember(
  playing: Pick<Playing, 'state'>,
  zone: Zone,
  gesture: GestureKey,
  channel: number,
): number | null {
  const { control } = splitGestureKey(gesture)
  const found = Object.values(playing.state.held).find(
    (held) => held.gesture === gesture && memberHeldBy(playing, zone, control, held.key) === channel,
  )
  return found?.key ?? null
}
