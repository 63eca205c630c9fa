import { busCellKey, cellKey, cellsListened, type Occupancy, type Sender } from '../../addresses'
import { drivenGroups, listeningOf, mappingParameter, type Listening as ListeningAt } from '../../mappings'
import { memo, type Id, type Mapping, type Rig } from '../../rig'
import { contextOf } from '../context'
import type { Changed, AffectedScopeOf } from './scope'

interface Listening {
  mapping: Mapping
  listening: ListeningAt | null
  /** Where rules look at mappings together: those of one gesture, at one number, and of one parameter or those it stands for. */
  groups: readonly string[]
}

/** The numbers at which a mapping listens, on whatever channel: a destination may take all channels for one. */
const numberGroups = ({ destination }: Mapping, { address }: ListeningAt): string[] =>
  cellsListened(address.scope === 'channel' ? { ...address, channel: 1 } : address).map(
    (cell) => `${destination} ${cellKey(cell)}`,
  )

/** All mappings with where they listen. */
const listeningIn = memo(
  (rig: Rig) => [rig.mappings, rig.destinations],
  (rig): readonly Listening[] =>
    rig.mappings.map((mapping) => {
      const target = mappingParameter(rig, mapping)
      const listening = target && listeningOf(mapping, target.parameter)
      const groups = [
        ...(mapping.gesture === null ? [] : [mapping.gesture]),
        ...(listening ? numberGroups(mapping, listening) : []),
        ...(target ? drivenGroups(target.destination, target.parameter) : []),
      ]
      return { mapping, listening, groups }
    }),
)

/** The cells of a change, by destination and bus. */
function touchedCells({ before, after, change }: Changed): ReadonlyMap<string, ReadonlySet<number>> {
  const touched = new Map<string, Set<number>>()
  const add = (occupancy: Occupancy, senders: readonly Sender[]): void => {
    for (const sender of senders) {
      for (const { bus, cells } of occupancy.emissionsOf(sender)) {
        const keys = touched.get(bus.id) ?? new Set<number>()
        touched.set(bus.id, keys)
        for (const cell of cells) keys.add(busCellKey(bus, cell))
      }
    }
  }
  add(before, change.removed)
  add(after, change.added)
  return touched
}

/** The mappings of the gestures that a change touches, those that listen where it does, and all that are looked at with them. */
export const mappingAffected: AffectedScopeOf = (changed) => {
  const { before, after, change } = changed
  const [old, now] = [listeningIn(before.rig), listeningIn(after.rig)]
  const all = old === now ? now : [...new Set([...old, ...now])]
  if (all.length === 0) return null
  const gestures = new Set([...change.removed, ...change.added].map(({ gesture }) => gesture))
  const edited = new Set(change.mappings)
  const cells = touchedCells(changed)
  const buses = after.buses.filter(({ id }) => cells.has(id))
  const isHit = ({ mapping, listening }: Listening): boolean =>
    listening !== null &&
    buses.some(
      (bus) =>
        bus.destination === mapping.destination &&
        cellsListened(listening.address).some((cell) => cells.get(bus.id)?.has(busCellKey(bus, cell))),
    )
  const open = all.filter(
    (each) =>
      edited.has(each.mapping) ||
      (each.mapping.gesture !== null && gestures.has(each.mapping.gesture)) ||
      isHit(each),
  )
  if (open.length === 0) return null
  const members = new Map<string, Listening[]>()
  for (const each of all) {
    for (const group of each.groups) {
      const list = members.get(group)
      if (list) list.push(each)
      else members.set(group, [each])
    }
  }
  const looked = new Set<Id>()
  const groups = new Set<string>()
  for (let each = open.pop(); each !== undefined; each = open.pop()) {
    looked.add(each.mapping.id)
    for (const group of each.groups) {
      if (groups.has(group)) continue
      groups.add(group)
      open.push(...(members.get(group) ?? []))
    }
  }
  const within = (occupancy: Occupancy) =>
    contextOf(occupancy.rig, {
      occupancy,
      mappings: occupancy.rig.mappings.filter(({ id }) => looked.has(id)),
    })
  return { before: within(before), after: within(after) }
}
