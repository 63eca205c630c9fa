import { printTag, sameAddress as isSameAddress, type Address } from '../../midi'
import { rigIndex, type Rig } from '../../rig'
import type { Sender } from '../../addresses'
import { isSpan, type Collision } from '../collisions'
import type { CheckContext } from '../context'
import { allButOne, allWhoMeet, type Draft, type Severity } from '../finding'
import { gesturesOf, moveFixes, shareFix } from '../fixes/numbers'
import type { Rule } from '../rule'
import {
  addressWords,
  cellAddresses,
  destinationWords,
  listed,
  senderWords,
  shortAddressWords,
  throughWords,
} from '../words'

/** What a collision is about, whatever else changes: its address, or the key spans that overlap. */
export function collisionAbout({ cells, senders }: Collision): string {
  const spans = senders.filter(isSpan).map(({ key }) => key)
  return spans.length > 0 ? spans.toSorted().join(' ') : cellAddresses(cells).map(printTag).join()
}

/** The controllers of which one is a copy of the other, where senders are the same gestures of one model; else null. */
function copies(rig: Rig, senders: readonly Sender[]): string | null {
  const { controllers } = rigIndex(rig)
  const byGesture = new Map<string, Set<string>>()
  const models = new Set<string>()
  for (const { place, messageIndex } of senders) {
    const key = `${place.template}/${place.layer ?? ''}/${place.gesture}#${messageIndex}`
    byGesture.set(key, (byGesture.get(key) ?? new Set()).add(place.controller))
    models.add(controllers.get(place.controller)?.model ?? '')
  }
  const sets = [...byGesture.values()].map((set) => [...set].toSorted().join(' '))
  const [first] = sets
  const isCopy = models.size === 1 && sets.every((set) => set === first) && (first?.includes(' ') ?? false)
  return isCopy ? `copy ${first}` : null
}

/** Where two collisions have one cause: a controller that is the copy of another, or the very same assignments. */
export const collisionCause = (rig: Rig, { senders }: Collision): string =>
  copies(rig, senders) ??
  `assignments ${[...new Set(senders.map(({ key }) => key.slice(0, key.lastIndexOf('#'))))].toSorted().join(' ')}`

const WORST: readonly Severity[] = ['error', 'warning', 'advice']

/** Addresses in the order of their tags, whatever the order of the rig. */
const inWriting = (addresses: readonly Address[]): Address[] =>
  addresses.toSorted((a, b) => (printTag(a) < printTag(b) ? -1 : 1))

/** Several collisions of one cause, as one. */
export function collisionsTogether(context: CheckContext, drafts: readonly Draft[]): Draft {
  const { rig } = context
  const senders = [...new Set(drafts.flatMap((draft) => draft.senders))].toSorted((a, b) => a.order - b.order)
  const addresses = inWriting(drafts.flatMap((draft) => draft.addresses))
  const destinations = [...new Set(drafts.flatMap((draft) => draft.destinations))]
  const owners = [...new Set(senders.map(({ place }) => place.controller))]
  const isCopy = drafts[0]?.cause?.startsWith('copy ') === true
  const names = listed(owners.map((id) => rigIndex(rig).controllers.get(id)?.name ?? ''))
  const message = isCopy
    ? `${names} send the same at ${addresses.length} addresses (${shortAddressWords(addresses)}) to ${destinationWords(rig, destinations)}: the one is programmed as the other. Give one another home channel, or other numbers.`
    : `${senderWords(rig, senders)} meet at ${shortAddressWords(addresses)} at ${destinationWords(rig, destinations)}.`
  return {
    severity: WORST.find((each) => drafts.some(({ severity }) => severity === each)) ?? 'error',
    message,
    senders,
    addresses,
    destinations,
    about: drafts[0]?.cause ?? '',
    cures: () => [
      ...(isCopy ? [] : moveFixes(context, allButOne(senders))),
      ...shareFix(context, gesturesOf(senders), addresses),
    ],
  }
}

/** Does each of them send this very address? */
const allSend = (senders: readonly Sender[], addresses: Draft['addresses']): boolean =>
  addresses.length === 1 &&
  senders.every(({ address }) => address !== null && addresses.every((one) => isSameAddress(one, address)))

/** Two gestures that can act at the same time send the same values to the same address. */
export const sameAddress: Rule = {
  id: 'same-address',
  title: 'Same address twice',
  topic: 'meeting',
  reach: 'cells',
  byNumbers: true,
  safe: ['move'],
  excused: true,
  find: (context) => {
    const { rig, collisions } = context
    const draft = (collision: Collision, severity: Severity, message: (who: string) => string): Draft => {
      const { senders, cells, destinations } = collision
      const addresses = cellAddresses(cells)
      const movers = severity === 'error' ? allWhoMeet(senders, collision.meetings) : null
      return {
        severity,
        message: `${message(senderWords(rig, senders))}${throughWords(rig, senders, cells, destinations)}`,
        senders,
        addresses,
        destinations,
        about: collisionAbout(collision),
        cause: collisionCause(rig, collision),
        ...(movers ? { moves: movers, meetings: collision.meetings } : {}),
        cures: () => [
          ...(movers ? moveFixes(context, movers) : []),
          ...shareFix(context, gesturesOf(senders), addresses),
        ],
      }
    }
    return [
      ...collisions()['same-address'].map((collision) => {
        const { senders, cells, destinations } = collision
        const addresses = cellAddresses(cells)
        const where = destinationWords(rig, destinations)
        return draft(collision, 'error', (who) =>
          allSend(senders, addresses)
            ? `${who} ${senders.length > 2 ? 'all' : 'both'} send ${addressWords(addresses)} to ${where}.`
            : `${who} meet at ${addressWords(addresses)} at ${where}.`,
        )
      }),
      ...collisions()['channel-wide'].map((collision) =>
        draft(
          collision,
          'warning',
          (who) =>
            `${who} both act on the whole channel with ${addressWords(cellAddresses(collision.cells))} at ${destinationWords(rig, collision.destinations)}.`,
        ),
      ),
    ]
  },
  together: collisionsTogether,
}
