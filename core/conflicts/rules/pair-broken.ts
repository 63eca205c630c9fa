import { PAIR_DISTANCE, type Address } from '../../midi'
import { busCellKey, type Bus, type CellAddress, type Hit, type Sender } from '../../addresses'
import { listenersOf, type Listener } from '../../mappings'
import { memoOf, type Id, type Rig } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import { gesturesOf, moveFixes, shareFix } from '../fixes/numbers'
import type { Rule } from '../rule'
import {
  addressWords,
  cellAddresses,
  destinationWords,
  placeCount,
  senderWords,
  throughWords,
  verb,
} from '../words'

interface Found {
  second: CellAddress
  pair: Map<string, Sender>
  users: Map<string, Sender>
  destinations: Set<Id>
  /** Does a destination really put the two halves together? */
  heard: boolean
}

/** What each destination listens at that is a pair, or a single controller number. */
const controllersHeard = memoOf((listeners: readonly Listener[]): ReadonlyMap<Id, readonly Address[]> => {
  const found = new Map<Id, Address[]>()
  for (const { destination, address } of listeners)
    if (address.target.kind === 'cc14' || address.target.kind === 'cc')
      found.set(destination, [...(found.get(destination) ?? []), address])
  return found
})

const heardBy = (rig: Rig, destination: Id): readonly Address[] =>
  controllersHeard(listenersOf(rig)).get(destination) ?? []

const isOn = (address: Address, cell: CellAddress, merges: boolean): boolean =>
  address.scope === 'channel' && (merges || address.channel === null || address.channel === cell.channel)

/** Does a destination listen at the pair whose LSB this is, by its chart or because it learned it? */
const isHeardAsPair = (heard: readonly Address[], second: CellAddress, merges: boolean): boolean =>
  heard.some(
    (address) =>
      address.target.kind === 'cc14' &&
      address.target.number === second.number - PAIR_DISTANCE &&
      isOn(address, second, merges),
  )

/** Does a destination listen at the second number by itself? */
const isHeardAlone = (heard: readonly Address[], second: CellAddress, merges: boolean): boolean =>
  heard.some(
    (address) =>
      address.target.kind === 'cc' &&
      address.target.number === second.number &&
      isOn(address, second, merges),
  )

interface Search {
  context: CheckContext
  found: Map<string, Found>
}

function note(
  search: Search,
  destination: Id,
  second: CellAddress,
  pair: Sender,
  user: Sender,
  heard: boolean,
): void {
  const key = addressWords(cellAddresses([second]))
  const entry = search.found.get(key) ?? {
    second,
    pair: new Map(),
    users: new Map(),
    destinations: new Set(),
    heard: false,
  }
  search.found.set(key, entry)
  entry.pair.set(pair.key, pair)
  entry.users.set(user.key, user)
  entry.destinations.add(destination)
  entry.heard ||= heard
}

/** A first number sent alone, or as the only half, still breaks a heard pair when someone else sends the second. */
function searchAlone(search: Search, bus: Bus, heard: readonly Address[]): void {
  const { occupancy } = search.context
  const onBus = occupancy.cells.get(bus.id)
  for (const hits of onBus?.values() ?? []) {
    for (const user of hits) {
      const { cell } = user
      if (cell.kind !== 'cc' || cell.part !== 'whole' || cell.role !== 'main') continue
      if (!isHeardAsPair(heard, cell, bus.mergesChannels)) continue
      const firstKey = busCellKey(bus, { ...cell, number: cell.number - PAIR_DISTANCE })
      for (const first of onBus?.get(firstKey) ?? []) {
        if (first.cell.role !== 'main' || first.cell.part !== 'whole') continue
        if (!harmless(search, first, user))
          note(search, bus.destination, cell, first.sender, user.sender, true)
      }
    }
  }
}

const harmless = ({ context }: Search, a: Hit, b: Hit): boolean =>
  a.sender.gesture === b.sender.gesture ||
  context.excused(a.sender.gesture, b.sender.gesture) ||
  !context.live(a.sender, b.sender)

function findBroken(context: CheckContext): Found[] {
  const { rig, occupancy, collisions } = context
  const search: Search = { context, found: new Map() }
  const merges = new Map(occupancy.buses.map((bus) => [bus.destination, bus.mergesChannels]))
  for (const collision of collisions()['pair-broken']) {
    const second = collision.cells[0]
    if (!second) continue
    const users = collision.senders.filter((sender) => !collision.pairSenders.includes(sender))
    for (const id of collision.destinations) {
      const heard = heardBy(rig, id)
      const isMerged = merges.get(id) ?? false
      const isHeard = isHeardAsPair(heard, second, isMerged) || isHeardAlone(heard, second, isMerged)
      for (const pair of collision.pairSenders) {
        for (const user of users) note(search, id, second, pair, user, isHeard)
      }
    }
  }
  for (const bus of occupancy.buses) {
    const heard = heardBy(rig, bus.destination)
    if (heard.some(({ target }) => target.kind === 'cc14')) searchAlone(search, bus, heard)
  }
  return [...search.found.values()]
}

/** The second number of a 14-bit pair is used by something else. */
export const pairBroken: Rule = {
  id: 'pair-broken',
  title: 'Half of a pair in use',
  topic: 'meeting',
  reach: 'cells',
  byNumbers: true,
  safe: ['move'],
  excused: true,
  find: (context) =>
    findBroken(context).map(({ second, pair, users, destinations, heard }): Draft => {
      const { rig } = context
      const addresses = cellAddresses([second])
      const tag = addressWords(addresses)
      const [using, pairing] = [[...users.values()], [...pair.values()]]
      const where = destinationWords(rig, [...destinations])
      const who = `${senderWords(rig, using)} ${verb(placeCount(using), 'sends', 'send')} ${tag}`
      const through = throughWords(rig, using, [second], [...destinations])
      return {
        severity: heard ? 'error' : 'advice',
        message: heard
          ? `${who}, the second half of ${senderWords(rig, pairing)} at ${where}: both will jump.${through}`
          : `${who}, which is also the second half of ${senderWords(rig, pairing)}; ${where} does not use that half yet.${through}`,
        senders: [...using, ...pairing],
        addresses,
        destinations: [...destinations],
        about: tag,
        moves: [using, pairing],
        cures: () => [
          ...moveFixes(context, [using, pairing]),
          ...shareFix(context, gesturesOf([...using, ...pairing]), addresses),
        ],
      }
    }),
}
