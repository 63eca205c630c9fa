import { cableRuleProblem } from '../cable-rules'
import { leadsIn, leadsOut, ownerIds, portKey, portsOf, type PortDirection } from '../ports'
import {
  Box as BoxSchema,
  Cable as CableSchema,
  Computer as ComputerSchema,
  DestinationPort as DestinationPortSchema,
  Port as PortSchema,
} from '../schema'
import type { Box, Cable, Computer, Destination, Id, Port, PortRef, Rig } from '../types'
import { dropPorts } from './cascade'
import { accepted, EditError, editKind, requireItem, requireNewId } from './kit'

/** Add a port to a controller, destination, box or computer (whose ports go both ways). */
export interface PortAdd {
  type: 'port-add'
  owner: Id
  port: Port
}

export interface PortSet {
  type: 'port-set'
  owner: Id
  port: Id
  set: {
    name?: string
    /** For software: the computer port it opens. */
    opens?: Destination['ports'][number]['opens']
    /** For a computer's port: may several programs open it? */
    sharing?: Computer['ports'][number]['sharing']
  }
}

/** Remove a port, with the cables at it. */
export interface PortRemove {
  type: 'port-remove'
  owner: Id
  port: Id
}

export interface CableAdd {
  type: 'cable-add'
  cable: Cable
}

export interface CableSet {
  type: 'cable-set'
  cable: Id
  set: Partial<Pick<Cable, 'rules' | 'otherwise'>>
}

export interface CableRemove {
  type: 'cable-remove'
  cable: Id
}

export interface BoxAdd {
  type: 'box-add'
  box: Box
}

export interface BoxSet {
  type: 'box-set'
  box: Id
  set: Partial<Pick<Box, 'name' | 'kind'>>
}

export interface BoxRemove {
  type: 'box-remove'
  box: Id
}

export interface ComputerAdd {
  type: 'computer-add'
  computer: Computer
}

export interface ComputerSet {
  type: 'computer-set'
  computer: Id
  name: string
}

/** Remove a computer; what opened its ports opens none. */
export interface ComputerRemove {
  type: 'computer-remove'
  computer: Id
}

const directionAt = (rig: Rig, ref: PortRef): PortDirection | null =>
  portsOf(rig).find((end) => portKey(end.ref) === portKey(ref))?.direction ?? null

const requireNewOwner = (rig: Rig, id: Id): void =>
  requireNewId(
    ownerIds(rig).map((owner) => ({ id: owner })),
    id,
  )

/** Give an owner another port. Refused if the owner is not there or has a port of that id. */
export const portAdd = editKind<PortAdd>('port-add', (rig, { owner, port }) => {
  const computer = rig.computers.find(({ id }) => id === owner)
  if (computer) {
    requireNewId(computer.ports, port.id)
    const { id, name } = port
    computer.ports = accepted(ComputerSchema, {
      ...computer,
      ports: [...computer.ports, { id, name }],
    }).ports
    return
  }
  const destination = rig.destinations.find(({ id }) => id === owner)
  if (destination) {
    requireNewId(destination.ports, port.id)
    destination.ports.push(accepted(DestinationPortSchema, { ...port, opens: null }))
    return
  }
  const holder = requireItem([...rig.controllers, ...rig.boxes], owner, 'device')
  requireNewId(holder.ports, port.id)
  holder.ports.push(accepted(PortSchema, port))
})

/**
 * Change a port: its name, of a computer how it is shared, of a destination what it opens. Refused if any of these
 * is not there.
 */
export const portSet = editKind<PortSet>('port-set', (rig, { owner, port: portId, set }) => {
  const computer = rig.computers.find(({ id }) => id === owner)
  if (computer) {
    const port = requireItem(computer.ports, portId, 'port')
    if (set.name !== undefined) port.name = set.name
    if (set.sharing !== undefined) port.sharing = set.sharing
    accepted(ComputerSchema, computer)
    return
  }
  const destination = rig.destinations.find(({ id }) => id === owner)
  if (destination) {
    const port = requireItem(destination.ports, portId, 'port')
    if (set.opens) {
      const opened = requireItem(rig.computers, set.opens.computer, 'computer')
      requireItem(opened.ports, set.opens.port, 'port')
    }
    Object.assign(port, accepted(DestinationPortSchema, { ...port, ...set }))
    return
  }
  const holder = requireItem([...rig.controllers, ...rig.boxes], owner, 'device')
  const port = requireItem(holder.ports, portId, 'port')
  Object.assign(port, accepted(PortSchema, { ...port, name: set.name ?? port.name }))
})

/** Take a port away, with its cables. Refused if it is not there. */
export const portRemove = editKind<PortRemove>('port-remove', (rig, { owner, port }) => {
  const holder = requireItem(
    [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers],
    owner,
    'device',
  )
  requireItem(holder.ports as Array<{ id: Id }>, port, 'port')
  holder.ports = (holder.ports as Array<{ id: Id }>).filter(({ id }) => id !== port) as typeof holder.ports
  dropPorts(rig, (ref) => ref.owner === owner && ref.port === port)
})

/** Join two ports. Refused if one is not there, they face the wrong way, or are joined already. */
export const cableAdd = editKind<CableAdd>('cable-add', (rig, edit) => {
  const cable = accepted(CableSchema, edit.cable)
  requireNewId(rig.cables, cable.id)
  const from = directionAt(rig, cable.from)
  const to = directionAt(rig, cable.to)
  if (!from || !to) throw new EditError('The port is no longer there; choose another.')
  if (!leadsOut(from)) throw new EditError('A cable begins at an out or a thru; turn it round.')
  if (!leadsIn(to)) throw new EditError('A cable ends at an in; choose one.')
  if (
    rig.cables.some(
      (other) => portKey(other.from) === portKey(cable.from) && portKey(other.to) === portKey(cable.to),
    )
  ) {
    throw new EditError('These two ports are joined already.')
  }
  rig.cables.push(cable)
})

/** Change the rules of a cable. Refused if it is not there, or a rule cannot be (`cableRuleProblem`). */
export const cableSet = editKind<CableSet>('cable-set', (rig, edit) => {
  const cable = requireItem(rig.cables, edit.cable, 'cable')
  const { rules, otherwise } = accepted(CableSchema, { ...cable, ...edit.set })
  for (const rule of rules) {
    const problem = cableRuleProblem(rule)
    if (problem !== null) throw new EditError(problem)
  }
  Object.assign(cable, { rules, otherwise })
})

/** Pull a cable. Refused if it is not there. */
export const cableRemove = editKind<CableRemove>('cable-remove', (rig, edit) => {
  requireItem(rig.cables, edit.cable, 'cable')
  rig.cables = rig.cables.filter(({ id }) => id !== edit.cable)
})

/** Add a box. Refused if its id is that of another owner of ports. */
export const boxAdd = editKind<BoxAdd>('box-add', (rig, edit) => {
  const box = accepted(BoxSchema, edit.box)
  requireNewOwner(rig, box.id)
  rig.boxes.push(box)
})

/** Change the name or kind of a box. Refused if it is not there. */
export const boxSet = editKind<BoxSet>('box-set', (rig, edit) => {
  const box = requireItem(rig.boxes, edit.box, 'box')
  const { name, kind } = accepted(BoxSchema, { ...box, ...edit.set })
  Object.assign(box, { name, kind })
})

/** Remove a box with its cables. Refused if it is not there. */
export const boxRemove = editKind<BoxRemove>('box-remove', (rig, edit) => {
  requireItem(rig.boxes, edit.box, 'box')
  rig.boxes = rig.boxes.filter(({ id }) => id !== edit.box)
  dropPorts(rig, ({ owner }) => owner === edit.box)
})

/** Add a computer. Refused if its id is that of another owner of ports. */
export const computerAdd = editKind<ComputerAdd>('computer-add', (rig, edit) => {
  const computer = accepted(ComputerSchema, edit.computer)
  requireNewOwner(rig, computer.id)
  rig.computers.push(computer)
})

/** Give a computer another name. Refused if it is not there. */
export const computerSet = editKind<ComputerSet>('computer-set', (rig, edit) => {
  const computer = requireItem(rig.computers, edit.computer, 'computer')
  computer.name = accepted(ComputerSchema, { ...computer, name: edit.name }).name
})

/** Remove a computer; what opened its ports opens none. Refused if it is not there. */
export const computerRemove = editKind<ComputerRemove>('computer-remove', (rig, edit) => {
  requireItem(rig.computers, edit.computer, 'computer')
  rig.computers = rig.computers.filter(({ id }) => id !== edit.computer)
  dropPorts(rig, ({ owner }) => owner === edit.computer)
})
