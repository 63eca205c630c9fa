import { portKey, type Cable, type Id, type PortRef, type Rig } from '../rig'

/** How the ports of a rig hang together: where cables begin, and where what arrives at a port goes on. */
export interface PortGraph {
  cablesFrom: (at: PortRef) => readonly Cable[]
  /** The ports of destinations that software has opened at a port of a computer. */
  openedAt: (at: PortRef) => readonly PortRef[]
  /** The ports that hand on what arrives at an owner: thru ports, and the outs of boxes. */
  onwardOf: (owner: Id) => readonly PortRef[]
}

function grouped<T>(items: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>()
  for (const item of items) {
    const group = groups.get(keyOf(item))
    if (group) group.push(item)
    else groups.set(keyOf(item), [item])
  }
  return groups
}

export function portGraph(rig: Rig): PortGraph {
  const cables = grouped(rig.cables, ({ from }) => portKey(from))
  const opened = grouped(
    rig.destinations.flatMap(({ id: owner, ports }) =>
      ports.flatMap(({ id: port, opens }) => (opens === null ? [] : [{ opens, ref: { owner, port } }])),
    ),
    ({ opens }) => portKey({ owner: opens.computer, port: opens.port }),
  )
  const onward = new Map<Id, PortRef[]>()
  const add = (
    owner: Id,
    ports: ReadonlyArray<{ id: Id; direction: string }>,
    directions: readonly string[],
  ): void => {
    const on = ports.filter(({ direction }) => directions.includes(direction))
    onward.set(
      owner,
      on.map(({ id: port }) => ({ owner, port })),
    )
  }
  for (const { id, ports } of [...rig.controllers, ...rig.destinations]) add(id, ports, ['thru'])
  for (const { id, ports } of rig.boxes) add(id, ports, ['out', 'thru'])
  return {
    cablesFrom: (at) => cables.get(portKey(at)) ?? [],
    openedAt: (at) => opened.get(portKey(at))?.map(({ ref }) => ref) ?? [],
    onwardOf: (owner) => onward.get(owner) ?? [],
  }
}

/** The cables that carry on what a cable brings. */
export const nextCables = (graph: PortGraph, { to }: Cable): readonly Cable[] =>
  [to, ...graph.openedAt(to)]
    .flatMap(({ owner }) => graph.onwardOf(owner))
    .flatMap((at) => graph.cablesFrom(at))
