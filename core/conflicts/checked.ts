import { perform, type Rig } from '../rig'
import { checkWith, type Check } from './check'

/** As `checkWith`, where edits can be made at once. Whoever loads them late uses `checkWith`. */
export const check = (rig: Rig): Check => checkWith(rig, (given, edits) => perform(given, 'try', edits).rig)
