import { landedAt } from '../../addresses'
import {
  isChannelMessage,
  withChannel,
  channelOf,
  zoneConfiguration,
  type Address,
  type SentMessage,
} from '../../midi'
import {
  assignmentsOf,
  memoOfTwo,
  placeKey,
  shownPlace,
  type Controller,
  type Place,
  type Showing,
} from '../../rig'

/** One message of a template, with where it may stand on the wire. */
export interface Candidate {
  place: Place
  index: number
  /** Its channel a number. */
  message: SentMessage
  /** Does its layer show? */
  isShown: boolean
}

/** One name for each thing that a reading can be of; the MSB of a pair is a CC like any other. */
export function readKeys(address: Address): string[] {
  if (address.scope === 'system')
    return [`${address.target.kind} ${'command' in address.target ? address.target.command : ''}`]
  const { channel, target } = address
  switch (target.kind) {
    case 'note':
    case 'polyPressure':
      return Array.from(
        { length: target.high - target.low + 1 },
        (_, key) => `${channel} ${target.kind} ${target.low + key}`,
      )
    case 'cc14':
      return [`${channel} cc14 ${target.number}`, `${channel} cc ${target.number}`]
    case 'cc':
    case 'channelMode':
      return [`${channel} cc ${target.number}`]
    case 'program':
    case 'nrpn':
    case 'rpn':
      return [`${channel} ${target.kind} ${target.number}`]
    case 'pitchBend':
    case 'channelPressure':
      return [`${channel} ${target.kind}`]
  }
}

/** Where the manager of a zone says how many members it has. */
const zonesSaid = (message: SentMessage): Address[] =>
  message.kind === 'note' && message.keys.kind === 'zone' ? landedAt(zoneConfiguration(message.keys)) : []

/** Everything that the template which shows can send, by what is read of it: what shows comes first. */
export const candidatesOf = memoOfTwo(
  (controller: Controller, showing: Showing): ReadonlyMap<string, readonly Candidate[]> => {
    const found = new Map<string, Candidate[]>()
    for (const { place, assignment } of assignmentsOf(controller)) {
      if (place.template !== showing.template) continue
      const shown = shownPlace(controller, showing, place.gesture)
      const isShown = shown !== null && placeKey(shown) === placeKey(place)
      assignment.messages.forEach((written, index) => {
        if (written.kind === 'off') return
        const message = isChannelMessage(written)
          ? withChannel(written, channelOf(written, controller.homeChannel) ?? controller.homeChannel)
          : written
        for (const key of new Set([...landedAt(message), ...zonesSaid(message)].flatMap(readKeys))) {
          const there = found.get(key) ?? []
          found.set(key, there)
          const candidate = { place, index, message, isShown }
          if (isShown) there.unshift(candidate)
          else there.push(candidate)
        }
      })
    }
    return found
  },
)
