import { busCellKey, type Occupancy, type Sender } from '../../addresses'
import {
  cellsExpected,
  drivenGroups,
  expectedOf,
  mappingParameter,
  printExpected,
  type Expected,
} from '../../mappings'
import type { Id, Mapping, Rig } from '../../rig'
import { contextOf } from '../context'
import type { Changed, IslandOf } from './island'

interface Listening {
  mapping: Mapping
  expected: Expected | null
  /** Where rules look at mappings together: those of one gesture, at one address, and of one parameter or those it stands for. */
  groups: readonly string[]
}

const known = new WeakMap<Rig['mappings'], { destinations: Rig['destinations']; all: readonly Listening[] }>()

/** All mappings with where they listen; worked out once for the same mappings and destinations. */
function listeningIn(rig: Rig): readonly Listening[] {
  const before = known.get(rig.mappings)
  if (before?.destinations === rig.destinations) return before.all
  const all = rig.mappings.map((mapping): Listening => {
    const target = mappingParameter(rig, mapping)
    const expected = target && expectedOf(mapping, target.parameter)
    const groups = [
      ...(mapping.gesture === null ? [] : [mapping.gesture]),
      ...(expected ? [`${mapping.destination} ${mapping.scope ?? ''} ${printExpected(expected)}`] : []),
      ...(target ? drivenGroups(target.destination, target.parameter) : []),
    ]
    return { mapping, expected, groups }
  })
  known.set(rig.mappings, { destinations: rig.destinations, all })
  return all
}

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
  add(before, change.gone)
  add(after, change.come)
  return touched
}

/** The mappings of the gestures that a change touches, those that listen where it does, and all that are looked at with them. */
export const mappingIsland: IslandOf = (changed) => {
  const { before, after, change } = changed
  const [old, now] = [listeningIn(before.rig), listeningIn(after.rig)]
  const all = old === now ? now : [...new Set([...old, ...now])]
  if (all.length === 0) return null
  const gestures = new Set([...change.gone, ...change.come].map(({ gesture }) => gesture))
  const edited = new Set(change.mappings)
  const cells = touchedCells(changed)
  const buses = after.buses.filter(({ id }) => cells.has(id))
  const isHit = ({ mapping, expected }: Listening): boolean =>
    expected !== null &&
    buses.some(
      (bus) =>
        bus.destination === mapping.destination &&
        cellsExpected(expected).some((cell) => cells.get(bus.id)?.has(busCellKey(bus, cell))),
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
