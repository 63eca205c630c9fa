import type { CellAddress } from '../addresses'
import { parameterName, rigIndex, type Id, type Rig } from '../rig'
import { chartedAt, expectedCovers, expectedOf, mappingParameter, type Expected } from './agreement'

/** A parameter that listens somewhere. */
export interface Listener {
  destination: Id
  name: string
  expected: Expected
  /** The mapping by which it was taught; null where it listens by its destination's own chart. */
  mapping: Id | null
}

const known = new WeakMap<Rig, readonly Listener[]>()

/** Every parameter that listens somewhere, by chart or by what it was taught. */
export function listenersOf(rig: Rig): readonly Listener[] {
  const before = known.get(rig)
  if (before) return before
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
  known.set(rig, all)
  return all
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
