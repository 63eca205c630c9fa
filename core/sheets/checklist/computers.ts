import type { Computer, Rig } from '../../rig'
import type { Step, StepGroup } from './step'

/** Who holds a port of a computer, and who is cabled to it. */
function usersOf(rig: Rig, computer: Computer, port: string): { programs: string[]; cabled: string[] } {
  const isThis = (ref: { owner: string; port: string }): boolean =>
    ref.owner === computer.id && ref.port === port
  const programs = rig.destinations.flatMap(({ name, ports }) =>
    ports.some(({ opens }) => opens?.computer === computer.id && opens.port === port) ? name : [],
  )
  const owners = [...rig.controllers, ...rig.destinations, ...rig.boxes]
  const cabled = rig.cables.flatMap(({ from, to }) => {
    const other = isThis(to) ? from : isThis(from) ? to : null
    return other ? (owners.find(({ id }) => id === other.owner)?.name ?? []) : []
  })
  return { programs: [...new Set(programs)], cabled: [...new Set(cabled)] }
}

function stepsOf(rig: Rig, computer: Computer): Step[] {
  const lead = { kind: 'computer', id: computer.id } as const
  return computer.ports.flatMap((port): Step[] => {
    const { programs, cabled } = usersOf(rig, computer, port.id)
    const id = `${computer.id}/port/${port.id}`
    if (programs.length === 0 && cabled.length === 0)
      return [{ id: `${id}/off`, text: 'Leave this port off: nothing uses it', at: port.name, lead }]
    const from = cabled.length > 0 ? ` for ${cabled.join(', ')}` : ''
    const enable = { id, text: `Enable the port${from}`, at: port.name, lead }
    if (port.sharing !== 'exclusive') return [enable]
    const [holder = ''] = programs
    const hold =
      programs.length === 0
        ? 'Only one program may hold this port: none of the rig is to'
        : `Only one program may hold this port: start ${holder} first, and no other on it`
    return [enable, { id: `${id}/hold`, text: hold, at: port.name, lead }]
  })
}

/** Which ports of each computer to enable and which not, and which program may hold one. */
export const computerSteps = (rig: Rig): StepGroup[] =>
  rig.computers.map((computer) => ({ heading: computer.name, steps: stepsOf(rig, computer) }))
