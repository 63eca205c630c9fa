import type { RigEdit } from './edits'
import { newBox, newComputer } from './fresh'
import { freeId } from './ids'
import { leadsIn, leadsOut, portKey } from './ports'
import type { Cable, Computer, Controller, Destination, Id, PortRef, Rig } from './types'

/** A way in which a controller or a destination can be joined to what is there. */
export interface Way {
  /** To or through what, as words: “to Laptop”. */
  name: string
  edits: readonly RigEdit[]
}

const isSoftware = ({ kind }: Destination): boolean => kind === 'daw' || kind === 'plugin'

/** Collects cables and ports that do not exist yet, each under an id of its own. */
function drawing(rig: Rig) {
  const edits: RigEdit[] = []
  const cables: Array<{ id: Id }> = [...rig.cables]
  const ports = new Map<Id, Array<{ id: Id }>>()
  const portsAt = (owner: { id: Id; ports: ReadonlyArray<{ id: Id }> }): Array<{ id: Id }> => {
    const known = ports.get(owner.id) ?? [...owner.ports]
    ports.set(owner.id, known)
    return known
  }
  return {
    edits,
    cable(from: PortRef, to: PortRef): void {
      const isThere = rig.cables.some(
        (each) => portKey(each.from) === portKey(from) && portKey(each.to) === portKey(to),
      )
      if (isThere) return
      const cable: Cable = { id: freeId('cable', cables), from, to, rules: [], otherwise: 'pass' }
      cables.push(cable)
      edits.push({ type: 'cable-add', cable })
    },
    port(
      owner: { id: Id; ports: ReadonlyArray<{ id: Id }> },
      word: string,
      name: string,
      direction: 'in' | 'out',
    ): Id {
      const known = portsAt(owner)
      const port = { id: freeId(word, known), name, direction }
      known.push(port)
      edits.push({ type: 'port-add', owner: owner.id, port })
      return port.id
    },
  }
}

const outOf = ({ id, ports }: Controller): PortRef | null => {
  const port = ports.find(({ direction }) => leadsOut(direction))
  return port ? { owner: id, port: port.id } : null
}

const hasCable = (rig: Rig, owner: Id): boolean => rig.cables.some(({ from }) => from.owner === owner)
const isCabledTo = (rig: Rig, from: Id, to: Id): boolean =>
  rig.cables.some((cable) => cable.from.owner === from && cable.to.owner === to)

const playing = (rig: Rig): Controller[] =>
  rig.controllers.filter((controller) => controller.inUse && outOf(controller) !== null)

/** The first in of a hardware destination that no cable leads to. */
function freeIn(rig: Rig, { id, ports }: Destination): PortRef | null {
  const port = ports.find(
    (each) =>
      leadsIn(each.direction) &&
      !rig.cables.some(({ to }) => portKey(to) === portKey({ owner: id, port: each.id })),
  )
  return port ? { owner: id, port: port.id } : null
}

/** Each of these controllers at a port of its own of a computer. */
function throughComputer(
  draw: ReturnType<typeof drawing>,
  rig: Rig,
  computer: Computer,
  controllers: readonly Controller[],
): PortRef[] {
  const unused = computer.ports.filter(
    ({ id }) => !rig.cables.some(({ to }) => portKey(to) === portKey({ owner: computer.id, port: id })),
  )
  return controllers.flatMap((controller) => {
    const from = outOf(controller)
    if (!from) return []
    const name = `From ${controller.name}`
    const spare = unused.shift()
    const port = spare?.id ?? draw.port(computer, 'port', name, 'in')
    if (spare) draw.edits.push({ type: 'port-set', owner: computer.id, port, set: { name } })
    const to = { owner: computer.id, port }
    draw.cable(from, to)
    return [to]
  })
}

/** Let a program open ports of a computer, with an in for each. */
function opening(
  draw: ReturnType<typeof drawing>,
  destination: Destination,
  opened: readonly PortRef[],
): void {
  const spare = destination.ports.filter(({ direction, opens }) => leadsIn(direction) && opens === null)
  for (const { owner, port } of opened) {
    const own =
      spare.shift()?.id ?? draw.port(destination, 'in', `MIDI in ${destination.ports.length + 1}`, 'in')
    draw.edits.push({
      type: 'port-set',
      owner: destination.id,
      port: own,
      set: { opens: { computer: owner, port } },
    })
  }
}

/** Programs that run by themselves and hear a computer already, or nothing yet. */
const programsAt = (rig: Rig, computer: Computer): Destination[] =>
  rig.destinations.filter(
    ({ inside, ports, ...destination }) =>
      inside === null &&
      isSoftware({ inside, ports, ...destination }) &&
      ports.every(({ opens }) => opens === null || opens.computer === computer.id),
  )

function waysOfController(rig: Rig, controller: Controller): Way[] {
  const from = outOf(controller)
  if (!from || !controller.inUse) return []
  const toComputers = rig.computers.map((computer): Way => {
    const draw = drawing(rig)
    const opened = throughComputer(draw, rig, computer, [controller])
    for (const program of programsAt(rig, computer)) opening(draw, program, opened)
    return { name: `to ${computer.name}`, edits: draw.edits }
  })
  const toHardware = rig.destinations.flatMap((destination): Way[] => {
    const to = isSoftware(destination) ? null : freeIn(rig, destination)
    if (!to) return []
    const draw = drawing(rig)
    draw.cable(from, to)
    return [{ name: `to ${destination.name}`, edits: draw.edits }]
  })
  return toComputers.length > 0 ? toComputers : toHardware
}

function waysOfSoftware(rig: Rig, destination: Destination): Way[] {
  const hosts = rig.destinations.filter(({ id, kind }) => kind === 'daw' && id !== destination.id)
  if (destination.kind === 'plugin' && hosts.length > 0)
    return hosts.map(({ id, name }) => ({
      name: `inside ${name}`,
      edits: [{ type: 'destination-set', destination: destination.id, set: { inside: id } }],
    }))
  const computers = rig.computers.length > 0 ? rig.computers : [newComputer(rig)]
  return computers.flatMap((computer): Way[] => {
    const isNew = rig.computers.length === 0
    const draw = drawing(rig)
    if (isNew) draw.edits.push({ type: 'computer-add', computer })
    const ownPorts = isNew
      ? []
      : computer.ports
          .filter(({ id }) =>
            rig.cables.some(({ to }) => portKey(to) === portKey({ owner: computer.id, port: id })),
          )
          .map(({ id }) => ({ owner: computer.id, port: id }))
    // What is not cabled anywhere yet comes along.
    const without = playing(rig).filter(({ id }) =>
      isNew ? true : !isCabledTo(rig, id, computer.id) && !hasCable(rig, id),
    )
    const opened = [...ownPorts, ...throughComputer(draw, rig, computer, without)]
    if (opened.length === 0) return []
    opening(draw, destination, opened)
    return [{ name: isNew ? 'through a computer' : `through ${computer.name}`, edits: draw.edits }]
  })
}

function waysOfHardware(rig: Rig, destination: Destination): Way[] {
  const to = freeIn(rig, destination)
  const controllers = playing(rig)
  if (!to) return []
  const single = controllers.flatMap((controller): Way[] => {
    const from = outOf(controller)
    if (!from) return []
    const draw = drawing(rig)
    draw.cable(from, to)
    return [{ name: `from ${controller.name}`, edits: draw.edits }]
  })
  if (controllers.length < 2) return single
  const draw = drawing(rig)
  const box = newBox(rig)
  const ins = controllers.map((_, index) => ({
    id: `in-${index + 1}`,
    name: `In ${index + 1}`,
    direction: 'in' as const,
  }))
  draw.edits.push({
    type: 'box-add',
    box: { ...box, ports: [...ins, ...box.ports.filter(({ direction }) => direction === 'out')] },
  })
  const out = box.ports.find(({ direction }) => direction === 'out')
  for (const [index, controller] of controllers.entries()) {
    const [from, port] = [outOf(controller), ins[index]]
    if (from && port) draw.cable(from, { owner: box.id, port: port.id })
  }
  if (out) draw.cable({ owner: box.id, port: out.id }, to)
  return [...single, { name: 'from all, through a merge box', edits: draw.edits }]
}

/** Does anything reach a destination, or leave a controller, by cable or as a program? */
export function isJoined(rig: Rig, id: Id): boolean {
  const destination = rig.destinations.find((each) => each.id === id)
  if (!destination) return hasCable(rig, id)
  return (
    destination.inside !== null ||
    destination.unit !== null ||
    destination.ports.some(({ opens }) => opens !== null) ||
    rig.cables.some(({ to }) => to.owner === id)
  )
}

/**
 * The ways in which something that is joined to nothing can be: a controller to a computer or to hardware; a program
 * through a computer, a plugin inside a DAW; hardware from a controller, or from several through a merge box. None where
 * there is nothing to join it to, or it is joined already.
 */
export function waysToJoin(rig: Rig, id: Id): Way[] {
  if (isJoined(rig, id)) return []
  const controller = rig.controllers.find((each) => each.id === id)
  if (controller) return waysOfController(rig, controller)
  const destination = rig.destinations.find((each) => each.id === id)
  if (!destination) return []
  return isSoftware(destination) ? waysOfSoftware(rig, destination) : waysOfHardware(rig, destination)
}
