import { cellTarget } from '../../addresses'
import { printTarget } from '../../midi'
import { allWhoMeet } from '../finding'
import { gesturesOf, moveFixes, narrowFix, shareFix } from '../fixes/numbers'
import type { Rule } from '../rule'
import { isSpan } from '../collisions'
import {
  addressWords,
  cellAddresses,
  destinationWords,
  senderWords,
  shortAddressWords,
  throughWords,
  verb,
} from '../words'
import { collisionsTogether } from './same-address'

/** Two gestures that differ only by channel meet where a destination takes all channels for one. */
export const mergedChannels: Rule = {
  id: 'merged-channels',
  title: 'Channels taken for one',
  topic: 'meeting',
  reach: 'cells',
  byNumbers: true,
  first: 'narrow',
  safe: ['move'],
  excused: true,
  find: (context) => {
    const { rig, collisions } = context
    return collisions()['merged-channels'].map((collision) => {
      const { senders, cells, destinations } = collision
      const addresses = cellAddresses(cells)
      const spans = senders.filter(isSpan).map(({ key }) => key)
      const [first] = cells
      const movers = allWhoMeet(senders, collision.meetings)
      return {
        severity: 'error',
        message: `${destinationWords(rig, destinations)} ${verb(destinations.length, 'takes', 'take')} all channels for one, so ${senderWords(rig, senders)} meet at ${addressWords(addresses)}.${throughWords(rig, senders, cells, destinations)}`,
        senders,
        addresses,
        destinations,
        about: spans.length > 0 || !first ? spans.toSorted().join(' ') : printTarget(cellTarget(first)),
        cause: destinations.toSorted().join(' '),
        moves: movers,
        meetings: collision.meetings,
        cures: () => [
          ...moveFixes(context, movers),
          ...narrowFix(context, destinations, senders),
          ...shareFix(context, gesturesOf(senders), addresses),
        ],
      }
    })
  },
  together: (context, drafts) => {
    const { rig } = context
    const whole = collisionsTogether(context, drafts)
    const { destinations, addresses, senders } = whole
    return {
      ...whole,
      message: `${destinationWords(rig, destinations)} ${verb(destinations.length, 'takes', 'take')} all channels for one, so ${senderWords(rig, senders)} meet at ${shortAddressWords(addresses)}.`,
      cures: () => [...narrowFix(context, whole.destinations, whole.senders), ...(whole.cures?.() ?? [])],
    }
  },
}
