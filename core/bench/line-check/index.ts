export {
  lineCheck,
  type Line,
  type LineCheck,
  type LineReport,
  type LineState,
  type NamedCause,
} from './check'
export type { Cause, Listened } from './worlds'
