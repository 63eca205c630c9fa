import { allWhoMeet } from '../finding'
import { gesturesOf, moveFixes, shareFix } from '../fixes/numbers'
import type { Rule } from '../rule'
import { addressWords, cellAddresses, destinationWords, senderWords, throughWords } from '../words'
import { collisionAbout, collisionCause, collisionsTogether } from './same-address'

/** Two gestures send different values to one address: meant as a step up and down, or an oversight. */
export const splitValue: Rule = {
  id: 'split-value',
  title: 'One address, different values',
  topic: 'values',
  reach: 'cells',
  safe: ['move'],
  excused: true,
  find: (context) => {
    const { rig, collisions } = context
    return collisions()['split-value'].map((collision) => {
      const { senders, cells, destinations } = collision
      const addresses = cellAddresses(cells)
      const movers = allWhoMeet(senders, collision.meetings)
      return {
        severity: 'warning',
        message: `${senderWords(rig, senders)} send different values to one address, ${addressWords(addresses)}, at ${destinationWords(rig, destinations)}.${throughWords(rig, senders, cells, destinations)}`,
        senders,
        addresses,
        destinations,
        about: collisionAbout(collision),
        cause: collisionCause(rig, collision),
        moves: movers,
        cures: () => [...moveFixes(context, movers), ...shareFix(context, gesturesOf(senders), addresses)],
      }
    })
  },
  together: collisionsTogether,
}
