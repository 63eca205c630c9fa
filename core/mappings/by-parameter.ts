import { hitsAt, type Occupancy, type Sender } from '../addresses'
import { memo, type Destination, type Id, type Mapping, type Place, type Rig } from '../rig'
import { resolveMappings } from './resolved'

/** The mappings of every parameter, by destination and parameter. */
const byParameter = memo(
  (rig: Rig) => [rig.mappings],
  (rig): ReadonlyMap<Id, ReadonlyMap<Id, readonly Mapping[]>> => {
    const all = new Map<Id, Map<Id, Mapping[]>>()
    for (const mapping of rig.mappings) {
      const own = all.get(mapping.destination) ?? new Map<Id, Mapping[]>()
      all.set(mapping.destination, own)
      const list = own.get(mapping.parameter)
      if (list) list.push(mapping)
      else own.set(mapping.parameter, [mapping])
    }
    return all
  },
)

/** What is joined to a parameter, old mappings included. */
export const mappingsByParameter = (rig: Rig, destination: Id, parameter: Id): readonly Mapping[] =>
  byParameter(rig).get(destination)?.get(parameter) ?? []

/** Who plays a note of a destination, or sends it a program: what arrives at that number, on any channel it hears. */
export function sendersTo(
  occupancy: Occupancy,
  { id }: Destination,
  kind: 'note' | 'program',
  number: number,
): Sender[] {
  const found = new Map<string, Sender>()
  for (const bus of occupancy.buses) {
    if (bus.destination !== id) continue
    for (let channel = 1; channel <= 16; channel++)
      for (const { sender } of hitsAt(occupancy, bus, { kind, channel, number }))
        found.set(sender.key, sender)
  }
  return [...found.values()]
}

/** Where to go to see a mapping at work: where its control sends what is listened for, else where it sends at all. */
export function placeOfMapping(rig: Rig, mapping: Mapping): Place | null {
  const [resolved] = resolveMappings(rig, [mapping])
  return resolved?.meeting[0]?.place ?? resolved?.senders[0]?.place ?? null
}
