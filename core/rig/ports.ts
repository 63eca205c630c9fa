import type { Id, PortRef, Rig } from './types'

/** Where signals go at a port; those of a computer take both ways. */
export type PortDirection = 'in' | 'out' | 'thru' | 'both'

/** One end for a cable: a port with its owner, as the player knows them. */
export interface PortEnd {
  ref: PortRef
  ownerName: string
  name: string
  direction: PortDirection
}

/** One string for a port, to compare and look up. */
export const portKey = ({ owner, port }: PortRef): string => `${owner}/${port}`

/** Every port of a rig: of controllers, destinations, boxes and computers, in that order. */
export function portsOf(rig: Rig): PortEnd[] {
  const ends: PortEnd[] = []
  for (const owner of [...rig.controllers, ...rig.destinations, ...rig.boxes]) {
    for (const { id, name, direction } of owner.ports)
      ends.push({ ref: { owner: owner.id, port: id }, ownerName: owner.name, name, direction })
  }
  for (const { id: owner, name: ownerName, ports } of rig.computers) {
    for (const { id, name } of ports)
      ends.push({ ref: { owner, port: id }, ownerName, name, direction: 'both' })
  }
  return ends
}

const OUTWARD: ReadonlySet<PortDirection> = new Set(['out', 'thru', 'both'])
const INWARD: ReadonlySet<PortDirection> = new Set(['in', 'both'])

/** Can a cable begin at a port of this direction? */
export const leadsOut = (direction: PortDirection): boolean => OUTWARD.has(direction)
/** Can a cable end at a port of this direction? */
export const leadsIn = (direction: PortDirection): boolean => INWARD.has(direction)

/** The ids of everything that owns ports: they may not repeat. */
export const ownerIds = (rig: Rig): Id[] =>
  [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers].map(({ id }) => id)
