export {
  lineCheck,
  type Line,
  type LineCheck,
  type LineReport,
  type LineState,
  type Stranger,
  type NamedCause,
} from './check'
export { ruledCablesOf } from './behind'
export type { Cause, Listened } from './worlds'
export { lineCheckedOf } from './kept'
export { takeOffGone, takeOverCause, takeOverStranger, type TakeOver } from './take-over'
export { disturbed, UNDISTURBED, type Disturbance } from './disturbed'
