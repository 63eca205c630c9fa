import { perform, type Rig, type RigEdit } from '../rig'
import { checkWith, recheckWith, type Check } from './check'

const apply = (rig: Rig, edits: readonly RigEdit[]): Rig => perform(rig, 'try', edits).rig

/** As `checkWith`, where edits can be made at once. Whoever loads them late uses `checkWith`. */
export const check = (rig: Rig): Check => checkWith(rig, apply)

/** As `recheckWith`, where edits can be made at once. */
export const recheck = (previous: Check, rig: Rig): Check => recheckWith(previous, rig, apply)
