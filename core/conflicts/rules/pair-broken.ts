import { PAIR_DISTANCE } from '../../midi'
import { busCellKey, type Bus, type CellAddress, type Hit, type Sender } from '../../addresses'
import { expectedOf, listenersOf, type Expected, type Listener } from '../../mappings'
import { parameterOf, rigIndex, type Id, type Rig } from '../../rig'
import { excusedBy, type CheckContext, type Excused } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

interface Found {
  second: CellAddress
  pair: Map<string, Sender>
  users: Map<string, Sender>
  destinations: Set<Id>
  /** Does a destination really put the two halves together? */
  heard: boolean
}

const known = new WeakMap<readonly Listener[], ReadonlyMap<Id, readonly Expected[]>>()

/** Pairs that a destination listens to as pairs: by its own chart, or because it learned them. */
function heardPairs(rig: Rig, destination: Id): readonly Expected[] {
  const listeners = listenersOf(rig)
  let pairs = known.get(listeners)
  if (!pairs) {
    const found = new Map<Id, Expected[]>()
    for (const { destination: id, expected } of listeners)
      if (expected.target.kind === 'cc14') found.set(id, [...(found.get(id) ?? []), expected])
    pairs = found
    known.set(listeners, pairs)
  }
  return pairs.get(destination) ?? []
}

const isHeardAsPair = (pairs: readonly Expected[], second: CellAddress): boolean =>
  pairs.some(
    ({ channel, target }) =>
      target.kind === 'cc14' &&
      target.number === second.number - PAIR_DISTANCE &&
      (channel === null || channel === second.channel),
  )

/** Was the destination taught the second number by itself? */
function learnedAlone(rig: Rig, destination: Id, second: CellAddress): boolean {
  const found = rigIndex(rig).destinations.get(destination)
  return rig.mappings.some((mapping) => {
    if (!found || mapping.destination !== destination) return false
    const expected = expectedOf(mapping, parameterOf(found, mapping.parameter))
    return (
      expected?.target.kind === 'cc' &&
      expected.target.number === second.number &&
      (expected.channel === null || expected.channel === second.channel)
    )
  })
}

interface Search {
  context: CheckContext
  excused: Excused
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
  const key = cellTags([second]).join()
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

/** A first number sent alone still breaks a heard pair when someone else sends the second. */
function searchAlone(search: Search, bus: Bus, pairs: readonly Expected[]): void {
  const { occupancy } = search.context
  const onBus = occupancy.cells.get(bus.id)
  for (const hits of onBus?.values() ?? []) {
    for (const user of hits) {
      const { cell } = user
      if (cell.space !== 'cc' || cell.part !== 'whole' || cell.role !== 'main') continue
      if (!isHeardAsPair(pairs, cell)) continue
      const firstKey = busCellKey(bus, { ...cell, number: cell.number - PAIR_DISTANCE })
      for (const first of onBus?.get(firstKey) ?? []) {
        if (first.cell.role !== 'main' || first.cell.part !== 'whole') continue
        if (!harmless(search, first, user))
          note(search, bus.destination, cell, first.sender, user.sender, true)
      }
    }
  }
}

const harmless = (search: Search, a: Hit, b: Hit): boolean =>
  a.sender.gesture === b.sender.gesture ||
  search.excused(a.sender.gesture, b.sender.gesture) ||
  !search.context.live(a.sender, b.sender)

function findBroken(context: CheckContext): Found[] {
  const { rig, occupancy, meetings } = context
  const search: Search = { context, excused: excusedBy(rig), found: new Map() }
  for (const meeting of meetings['pair-broken']) {
    const second = meeting.cells[0]
    if (!second) continue
    const users = meeting.senders.filter((sender) => !meeting.pairSenders.includes(sender))
    for (const id of meeting.destinations) {
      const heard = isHeardAsPair(heardPairs(rig, id), second) || learnedAlone(rig, id, second)
      for (const pair of meeting.pairSenders) {
        for (const user of users) note(search, id, second, pair, user, heard)
      }
    }
  }
  for (const bus of occupancy.buses) {
    const pairs = heardPairs(rig, bus.destination)
    if (pairs.length > 0) searchAlone(search, bus, pairs)
  }
  return [...search.found.values()]
}

/** The second number of a 14-bit pair is used by something else. */
export const pairBroken: Rule = {
  id: 'pair-broken',
  title: 'Half of a pair in use',
  reach: 'cells',
  find: (context) =>
    findBroken(context).map(({ second, pair, users, destinations, heard }): Draft => {
      const { rig } = context
      const tags = cellTags([second])
      const who = senderWords(rig, [...users.values()])
      const pairWords = senderWords(rig, [...pair.values()])
      const where = destinationWords(rig, [...destinations])
      return {
        severity: heard ? 'error' : 'advice',
        message: heard
          ? `${who} sends ${tags.join()}, the second half of ${pairWords} at ${where}: both will jump.`
          : `${who} sends ${tags.join()}, which is also the second half of ${pairWords}; ${where} does not use that half yet.`,
        senders: [...users.values(), ...pair.values()],
        addresses: tags,
        destinations: [...destinations],
        cures: { moves: [[...users.values()], [...pair.values()]], share: true },
      }
    }),
}
