import { cellKey, type Bus, type CellAddress } from '../addresses'
import { PAIR_DISTANCE } from '../midi'
import { parameterName, rigIndex, type Id, type Rig } from '../rig'
import { chartedAt, expectedCovers, expectedOf, mappingParameter, type Expected } from './agreement'
import { cellsExpected } from './joins'

/** A parameter that listens somewhere. */
export interface Listener {
  destination: Id
  name: string
  expected: Expected
  /** The mapping by which it was taught; null where it listens by its destination's own chart. */
  mapping: Id | null
}

interface Known {
  destinations: Rig['destinations']
  all: readonly Listener[]
}
/** By the mappings of a rig: most edits leave them and the destinations alone. */
const known = new WeakMap<Rig['mappings'], Known>()

/** Every parameter that listens somewhere, by chart or by what it was taught. */
export function listenersOf(rig: Rig): readonly Listener[] {
  const before = known.get(rig.mappings)
  if (before?.destinations === rig.destinations) return before.all
  const charted = rig.destinations.flatMap((destination) =>
    destination.parameters.flatMap((parameter): Listener[] => {
      const expected = chartedAt(parameter)
      return expected
        ? [{ destination: destination.id, name: parameterName(parameter), expected, mapping: null }]
        : []
    }),
  )
  const learned = rig.mappings.flatMap((mapping): Listener[] => {
    const target = mappingParameter(rig, mapping)
    const expected = target && expectedOf(mapping, target.parameter)
    return target && expected?.by === 'learning'
      ? [
          {
            destination: mapping.destination,
            name: parameterName(target.parameter),
            expected,
            mapping: mapping.id,
          },
        ]
      : []
  })
  const all = [...charted, ...learned]
  known.set(rig.mappings, { destinations: rig.destinations, all })
  return all
}

type ByNumber = ReadonlyMap<number, readonly Listener[]>
const indexes = new WeakMap<readonly Listener[], ReadonlyMap<Id, ByNumber>>()

const numberKey = ({ space, number }: CellAddress): number => cellKey({ space, channel: 1, number })

function indexOf(listeners: readonly Listener[]): ReadonlyMap<Id, ByNumber> {
  const before = indexes.get(listeners)
  if (before) return before
  const index = new Map<Id, Map<number, Listener[]>>()
  for (const listener of listeners) {
    const own = index.get(listener.destination) ?? new Map<number, Listener[]>()
    index.set(listener.destination, own)
    const { target } = listener.expected
    const cells = cellsExpected({ ...listener.expected, channel: 1 })
    const seconds =
      target.kind === 'cc14' ? cells.map((cell) => ({ ...cell, number: cell.number + PAIR_DISTANCE })) : []
    for (const cell of [...cells, ...seconds]) {
      const there = own.get(numberKey(cell))
      if (there) there.push(listener)
      else own.set(numberKey(cell), [listener])
    }
  }
  indexes.set(listeners, index)
  return index
}

/** Who listens at a cell of a bus, which may take all channels for one. */
export function listenersOn(
  rig: Rig,
  { destination, mergesChannels }: Bus,
  cell: CellAddress,
): readonly Listener[] {
  const there = indexOf(listenersOf(rig)).get(destination)?.get(numberKey(cell)) ?? []
  return mergesChannels
    ? there
    : there.filter(({ expected: { channel } }) => channel === null || channel === cell.channel)
}

/** What listens at a cell of these destinations: the parameters, with their destination, each once. */
export function listenersAt(rig: Rig, destinations: readonly Id[], cell: CellAddress): string[] {
  const { destinations: byId } = rigIndex(rig)
  const names = listenersOf(rig)
    .filter(
      ({ destination, expected }) => destinations.includes(destination) && expectedCovers(expected, cell),
    )
    .map(({ destination, name }) => `${byId.get(destination)?.name ?? ''} · ${name}`)
  return [...new Set(names)]
}
