import { allocate, type Plan } from '../allocate'
import { AllocateRequest, type AllocateInput } from '../allocate/request'
import { check } from '../conflicts'
import { perform, type Rig, type RigEdit } from '../rig'
import { loadPrograms } from '../../shared/programs'
import { tagOf } from './addresses'

/** A rig with edits made. */
export const apply = (rig: Rig, edits: readonly RigEdit[]): Rig => perform(rig, 'plan', edits).rig

/** What solves linear programs, as the application has it. */
export const programs = await loadPrograms()

/** The plan of a rig as it is. `onTry` is called whenever edits are made to try them out. */
export const plan = (rig: Rig, input: AllocateInput, onTry: () => void = () => undefined): Plan =>
  allocate(
    check(rig),
    AllocateRequest.parse(input),
    (given, edits) => {
      onTry()
      return apply(given, edits)
    },
    { programs },
  )

/** What a plan moves, each with its gesture: `a/k1.turn: 1:cc20 → 1:cc21`. */
export const moves = ({ changes }: Plan): string[] =>
  changes.map(({ at, from, to }) => `${at.controller}/${at.gesture}: ${tagOf(from)} → ${tagOf(to)}`)
