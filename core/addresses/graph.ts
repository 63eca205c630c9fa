import { portKey, type Cable, type Id, type PortRef, type Rig } from '../rig'

/** How the ports of a rig hang together: where cables begin, and where what arrives at a port goes on. */
export interface PortGraph {
  cablesFrom: (at: PortRef) => readonly Cable[]
  /** The ports of destinations that software has opened at a port of a computer, and got. */
  openedAt: (at: PortRef) => readonly PortRef[]
  /** Those that wanted it too, but another program holds it. */
  heldAt: (at: PortRef) => readonly HeldPort[]
  /** The ports that hand on what arrives at an owner: thru ports, and the outs of boxes. */
  onwardOf: (owner: Id) => readonly PortRef[]
}

/** A port of a destination that wanted a port of a computer which only one program can have, and who has it. */
export interface HeldPort {
  at: PortRef
  port: PortRef
  by: Id
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

/** The ports and cables of a rig as a graph. What is put away is not plugged in: nothing passes it. */
export function portGraph(rig: Rig): PortGraph {
  const away = new Set(rig.controllers.flatMap(({ id, inUse }) => (inUse ? [] : [id])))
  const cables = grouped(
    rig.cables.filter(({ from, to }) => !away.has(from.owner) && !away.has(to.owner)),
    ({ from }) => portKey(from),
  )
  const exclusive = new Set(
    rig.computers.flatMap(({ id: owner, ports }) =>
      ports.flatMap(({ id: port, sharing }) => (sharing === 'exclusive' ? [portKey({ owner, port })] : [])),
    ),
  )
  const opened = new Map<string, PortRef[]>()
  const held = new Map<string, HeldPort[]>()
  for (const { id: owner, ports } of rig.destinations) {
    for (const { id: port, opens } of ports) {
      if (opens === null) continue
      const at = { owner: opens.computer, port: opens.port }
      const key = portKey(at)
      const [first] = opened.get(key) ?? []
      const ref = { owner, port }
      if (exclusive.has(key) && first && first.owner !== owner)
        held.set(key, [...(held.get(key) ?? []), { at, port: ref, by: first.owner }])
      else opened.set(key, [...(opened.get(key) ?? []), ref])
    }
  }
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
  for (const { id, ports } of [...rig.controllers, ...rig.destinations])
    if (!away.has(id)) add(id, ports, ['thru'])
  for (const { id, ports } of rig.boxes) add(id, ports, ['out', 'thru'])
  return {
    cablesFrom: (at) => cables.get(portKey(at)) ?? [],
    openedAt: (at) => opened.get(portKey(at)) ?? [],
    heldAt: (at) => held.get(portKey(at)) ?? [],
    onwardOf: (owner) => onward.get(owner) ?? [],
  }
}
