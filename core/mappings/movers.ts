import { hitsAt, type Occupancy, type Sender } from '../addresses'
import type { Destination, Id, Mapping, Place, Rig } from '../rig'
import { joinsOf } from './joins'

const known = new WeakMap<Rig['mappings'], ReadonlyMap<Id, ReadonlyMap<Id, readonly Mapping[]>>>()

/** The mappings of every parameter, by destination and parameter; worked out once for the same mappings. */
function byParameter(rig: Rig): ReadonlyMap<Id, ReadonlyMap<Id, readonly Mapping[]>> {
  const before = known.get(rig.mappings)
  if (before) return before
  const all = new Map<Id, Map<Id, Mapping[]>>()
  for (const mapping of rig.mappings) {
    const own = all.get(mapping.destination) ?? new Map<Id, Mapping[]>()
    all.set(mapping.destination, own)
    const list = own.get(mapping.parameter)
    if (list) list.push(mapping)
    else own.set(mapping.parameter, [mapping])
  }
  known.set(rig.mappings, all)
  return all
}

/** What is joined to a parameter, old mappings included. */
export const mappingsTo = (rig: Rig, destination: Id, parameter: Id): readonly Mapping[] =>
  byParameter(rig).get(destination)?.get(parameter) ?? []

/** Who plays a note of a destination, or sends it a program: what arrives at that number, on any channel it hears. */
export function sendersTo(
  occupancy: Occupancy,
  { id }: Destination,
  space: 'note' | 'program',
  number: number,
): Sender[] {
  const found = new Map<string, Sender>()
  for (const bus of occupancy.buses) {
    if (bus.destination !== id) continue
    for (let channel = 1; channel <= 16; channel++)
      for (const { sender } of hitsAt(occupancy, bus, { space, channel, number }))
        found.set(sender.key, sender)
  }
  return [...found.values()]
}

/** Where to go to see a mapping at work: where its control sends what is listened for, else where it sends at all. */
export function placeOfMapping(rig: Rig, mapping: Mapping): Place | null {
  const [join] = joinsOf(rig, [mapping])
  return join?.meeting[0]?.place ?? join?.senders[0]?.place ?? null
}
