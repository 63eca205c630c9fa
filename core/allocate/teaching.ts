import { busCellKey, cellsListened, type Bus, type CellAddress, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import type { Id } from '../rig'
import { followersIn } from './followers'
import type { Trouble } from './free'
import { hearingsOf, withFollowersIn } from './hearing'

/** A mapping that is taught elsewhere once all of these, by key, have gone from where it hears them. */
export interface Ending {
  mapping: Id
  leaders: readonly string[]
  /** Those of them whom it hears now. */
  heard: readonly string[]
}

/** Which errors can end because something is taught elsewhere. */
export interface Teaching {
  /** Those that cannot. */
  firm: readonly Trouble[]
  /** Of who is in one of the others, by key: by one of these it ends. */
  endings: ReadonlyMap<string, readonly Ending[]>
}

/** No error can end so. */
export const withoutTeaching = (troubles: readonly Trouble[]): Teaching => ({
  firm: troubles,
  endings: new Map(),
})

/**
 * An error that depends on where something listens can end because something is taught elsewhere: where what listens there, or
 * what someone in the error is joined to, loses those it hears, and is taught again where they go. Then nobody in the error
 * has to move. Null where none can end so.
 *
 * @param senders Those who may move.
 */
export function teachingOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): Teaching | null {
  const concerned = troubles.filter(({ isOfMappings }) => isOfMappings)
  if (concerned.length === 0) return null
  const { occupancy } = context
  const heard = hearingsOf(context, senders, withFollowersIn(context)).all.filter(({ isHeard }) => isHeard)
  const idOf = (bus: Bus, cell: CellAddress): string => `${bus.id} ${busCellKey(bus, cell)}`
  const { leaderOf } = followersIn(context)
  const listensAt = heard.map(({ mapping, hearsNow, leaders, listening: { destination, address } }) => ({
    ending: {
      mapping: mapping.id,
      leaders: leaders.map(({ key }) => key),
      heard: leaders.filter(hearsNow).map(({ key }) => key),
    },
    hearsNow,
    leaders: new Set(leaders.map(({ key }) => key)),
    cells: new Set(
      occupancy.buses
        .filter((bus) => bus.destination === destination)
        .flatMap((bus) => cellsListened(address).map((cell) => idOf(bus, cell))),
    ),
  }))
  const arrives = (sender: Sender, cells: ReadonlySet<string>): boolean =>
    occupancy
      .emissionsOf(sender)
      .some(({ bus, cells: own }) => own.some((cell) => cells.has(idOf(bus, cell))))
  const endingsOf = (trouble: Trouble): typeof listensAt => {
    const own = new Set(trouble.senders.map(({ key }) => key))
    return listensAt.filter(
      ({ leaders, cells }) =>
        // It is taught elsewhere only when all whom it hears have gone: if those are in the error, they have moved.
        ![...leaders].every((key) => own.has(key)) &&
        trouble.senders.some((sender) => leaders.has(sender.key) || arrives(sender, cells)),
    )
  }
  const ending = new Map(
    concerned.flatMap((trouble) => {
      const by = endingsOf(trouble)
      return by.length > 0 ? [[trouble, by] as const] : []
    }),
  )
  if (ending.size === 0) return null
  const endings = new Map<string, Set<Ending>>()
  for (const [{ senders: all }, by] of ending)
    for (const sender of all) {
      const staying = leaderOf(sender) ?? sender
      const known = endings.get(staying.key) ?? new Set<Ending>()
      endings.set(staying.key, known)
      // Whoever stays and is heard keeps a mapping from being lost.
      for (const one of by) if (!one.hearsNow(staying)) known.add(one.ending)
    }
  return {
    firm: troubles.filter((trouble) => !ending.has(trouble)),
    endings: new Map([...endings].map(([key, own]) => [key, [...own]])),
  }
}
