import type { Occupancy, Sender } from '../addresses'
import type { Destination } from '../rig'
import { sendersTo } from './by-parameter'

/** A note of a destination that has a name, with who plays it. */
export interface HeardNote {
  named: Destination['noteNames'][number]
  /** How many notes below it have no name, down to the next that has one; 0 for the lowest. */
  gap: number
  by: readonly Sender[]
}

/** A program of a destination that has a name, with who sends it. */
export interface HeardProgram {
  program: Destination['programs'][number]
  by: readonly Sender[]
}

/** The named notes of a destination from the lowest up. */
export const heardNotes = (occupancy: Occupancy, destination: Destination): HeardNote[] =>
  destination.noteNames
    .toSorted((a, b) => a.number - b.number)
    .map((named, index, all) => {
      const before = all[index - 1]
      return {
        named,
        gap: before ? named.number - before.number - 1 : 0,
        by: sendersTo(occupancy, destination, 'note', named.number),
      }
    })

/** The named programs of a destination in its order. What is sent without a bank may choose one in any. */
export const heardPrograms = (occupancy: Occupancy, destination: Destination): HeardProgram[] =>
  destination.programs.map((program) => ({
    program,
    by: sendersTo(occupancy, destination, 'program', program.number).filter(({ message }) => {
      const bank = message.kind === 'program' ? message.bank : null
      return bank === null || (bank.msb === program.bank?.msb && bank.lsb === program.bank.lsb)
    }),
  }))
