import type { Destination } from '../../rig'
import type { Rule } from '../rule'
import { listed } from '../words'

interface Opening {
  destination: Destination
  port: string
}

/** Two programs want one port of a computer. Where it is exclusive only the first gets it. */
export const portHeld: Rule = {
  id: 'port-held',
  title: 'One port, two programs',
  topic: 'cables',
  reach: 'wiring',
  find: ({ rig }) =>
    rig.computers.flatMap((computer) =>
      computer.ports.flatMap((port) => {
        const openings = rig.destinations.flatMap((destination) =>
          destination.ports
            .filter(({ opens }) => opens?.computer === computer.id && opens.port === port.id)
            .map((own): Opening => ({ destination, port: own.id })),
        )
        const programs = [...new Set(openings.map(({ destination }) => destination))]
        if (programs.length < 2) return []
        const names = listed(programs.map(({ name }) => name))
        const isExclusive = port.sharing === 'exclusive'
        return [
          {
            severity: isExclusive ? ('error' as const) : ('advice' as const),
            message: isExclusive
              ? `${names} open ${port.name} of ${computer.name}, which only one program can have: the other hears nothing.`
              : `${names} both open ${port.name} of ${computer.name}: each hears all of it.`,
            senders: [],
            addresses: [],
            destinations: programs.map(({ id }) => id),
            about: `${computer.id}/${port.id}`,
            places: [],
            things: [
              { kind: 'computer' as const, id: computer.id },
              ...programs.map(({ id }) => ({ kind: 'destination' as const, id })),
            ],
            cures: () =>
              openings.map((opening) => ({
                id: `close-${opening.destination.id}-${opening.port}`,
                kind: 'close' as const,
                label: `Close it in ${opening.destination.name}`,
                edits: [
                  {
                    type: 'port-set' as const,
                    owner: opening.destination.id,
                    port: opening.port,
                    set: { opens: null },
                  },
                ],
              })),
          },
        ]
      }),
    ),
}
