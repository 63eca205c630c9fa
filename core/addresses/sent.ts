import { leadsOut, newDestination, type Rig } from '../rig'
import { occupancyOf, type Occupancy } from './occupancy'

const NAME = 'sent, heard by nobody yet'

/** Does nothing that is sent arrive anywhere? */
export const isUnheard = ({ cells }: Occupancy): boolean =>
  [...cells.values()].every(({ size }) => size === 0)

/**
 * What would be where if everything that is sent went to one place, which hears all: the occupancy of a rig in which
 * nothing is heard by anyone yet.
 */
export function sentByAll(rig: Rig): Occupancy {
  const place = { ...newDestination(rig), name: NAME }
  const [port] = place.ports
  const cables = rig.controllers.flatMap(({ id: owner, ports }) =>
    ports
      .filter(({ direction }) => leadsOut(direction) && direction !== 'thru')
      .map(({ id }) => ({
        id: `${owner}-${id}`,
        from: { owner, port: id },
        to: { owner: place.id, port: port?.id ?? 'in' },
        rules: [],
        otherwise: 'pass' as const,
      })),
  )
  return occupancyOf({ ...rig, destinations: [place], boxes: [], computers: [], cables, mappings: [] })
}
