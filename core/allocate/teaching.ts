import { busCellKey, cellsListened, type Bus, type CellAddress, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import type { Trouble } from './free'
import { hearingsOf, withFollowersIn } from './hearing'

/**
 * The errors that cannot end because something is taught elsewhere. An error that depends on where something listens can,
 * where what listens there, or what someone in the error is joined to, may lose those it hears, and is taught again where
 * they go: then nobody in the error has to move. Such are left out.
 *
 * @param senders Those who may move.
 */
export function untaughtTroubles(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): readonly Trouble[] {
  const concerned = troubles.filter(({ isOfMappings }) => isOfMappings)
  if (concerned.length === 0) return troubles
  const { occupancy } = context
  const heard = hearingsOf(context, senders, withFollowersIn(context)).all.filter(({ isHeard }) => isHeard)
  const idOf = (bus: Bus, cell: CellAddress): string => `${bus.id} ${busCellKey(bus, cell)}`
  const listensAt = heard.map(({ leaders, listening: { destination, address } }) => ({
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
  const canEnd = (trouble: Trouble): boolean => {
    const own = new Set(trouble.senders.map(({ key }) => key))
    return listensAt.some(
      ({ leaders, cells }) =>
        // It is taught elsewhere only when all whom it hears have gone: if those are in the error, they have moved.
        ![...leaders].every((key) => own.has(key)) &&
        trouble.senders.some((sender) => leaders.has(sender.key) || arrives(sender, cells)),
    )
  }
  const ending = new Set(concerned.filter(canEnd))
  return ending.size === 0 ? troubles : troubles.filter((trouble) => !ending.has(trouble))
}
