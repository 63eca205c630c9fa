import { cellKey, cellsListened, listensAt, type Bus, type CellAddress } from '../addresses'
import { PAIR_DISTANCE, type Address } from '../midi'
import { memo, memoOf, parameterName, rigIndex, type Id, type Rig } from '../rig'
import { chartedAt, listeningOf, mappingParameter } from './listening'

/** A parameter that listens somewhere. */
export interface Listener {
  destination: Id
  name: string
  address: Address
  /** The mapping by which it was taught; null where it listens by its destination's own chart. */
  mapping: Id | null
}

/** Every parameter that listens somewhere, by chart or by what it was taught. */
export const listenersOf = memo(
  (rig: Rig) => [rig.mappings, rig.destinations],
  (rig): readonly Listener[] => {
    const charted = rig.destinations.flatMap((destination) =>
      destination.parameters.flatMap((parameter): Listener[] => {
        const listening = chartedAt(parameter)
        return listening
          ? [
              {
                destination: destination.id,
                name: parameterName(parameter),
                address: listening.address,
                mapping: null,
              },
            ]
          : []
      }),
    )
    const learned = rig.mappings.flatMap((mapping): Listener[] => {
      const target = mappingParameter(rig, mapping)
      const listening = target && listeningOf(mapping, target.parameter)
      return target && listening?.by === 'learning'
        ? [
            {
              destination: mapping.destination,
              name: parameterName(target.parameter),
              address: listening.address,
              mapping: mapping.id,
            },
          ]
        : []
    })
    return [...charted, ...learned]
  },
)

type ByNumber = ReadonlyMap<number, readonly Listener[]>

const numberKey = ({ kind, number }: CellAddress): number => cellKey({ kind, channel: 1, number })

const indexOf = memoOf((listeners: readonly Listener[]): ReadonlyMap<Id, ByNumber> => {
  const index = new Map<Id, Map<number, Listener[]>>()
  for (const listener of listeners) {
    const { address, destination } = listener
    const own = index.get(destination) ?? new Map<number, Listener[]>()
    index.set(destination, own)
    const isPair = address.scope === 'channel' && address.target.kind === 'cc14'
    const cells = cellsListened(address.scope === 'channel' ? { ...address, channel: 1 } : address)
    const second = isPair ? cells.map((cell) => ({ ...cell, number: cell.number + PAIR_DISTANCE })) : []
    for (const cell of [...cells, ...second]) {
      const there = own.get(numberKey(cell))
      if (there) there.push(listener)
      else own.set(numberKey(cell), [listener])
    }
  }
  return index
})

/** Who listens at a cell of a bus, which may take all channels for one. */
export function listenersOn(
  rig: Rig,
  { destination, mergesChannels }: Bus,
  cell: CellAddress,
): readonly Listener[] {
  const there = indexOf(listenersOf(rig)).get(destination)?.get(numberKey(cell)) ?? []
  return mergesChannels
    ? there
    : there.filter(
        ({ address }) =>
          address.scope === 'channel' && (address.channel === null || address.channel === cell.channel),
      )
}

/** What listens at a cell of these destinations: the parameters, with their destination, each once. */
export function listenersAt(rig: Rig, destinations: readonly Id[], cell: CellAddress): string[] {
  const { destinations: byId } = rigIndex(rig)
  const names = listenersOf(rig)
    .filter(({ destination, address }) => destinations.includes(destination) && listensAt(address, cell))
    .map(({ destination, name }) => `${byId.get(destination)?.name ?? ''} · ${name}`)
  return [...new Set(names)]
}
