export * from './abilities'
export * from './assignment-words'
export * from './cable-rules'
export * from './checksum'
export * from './choices'
export * from './destination-starters'
export * from './edits'
export * from './fresh'
export * from './ids'
export * from './json-schema'
export * from './lists'
export * from './lookup'
export * from './mapping-problem'
export * from './mapping-words'
export * from './memo'
export * from './messages'
export * from './migrations'
export * from './parse'
export * from './passages'
export * from './places'
export * from './ports'
export * from './problems'
export * from './program'
export {
  align,
  columnsWith,
  copies,
  distribute,
  fittedScale,
  grownSurface,
  KIND_FACTS,
  layOut,
  moved,
  namesByPattern,
  placeFor,
  planSize,
  readingOrder,
  rowsOf,
  rowsWith,
  snapMove,
  STARTERS,
  usualPlan,
} from './surface'
export type { Axis, BlockPlan, Edge, Placing, Starter, StarterShape } from './surface'
export * from './start'
export * from './plain-text'
export * from './sysex-text'
export * from './value-list'
export * from './ways'
export * from './wiring-words'
export type * from './types'
export { RIG_FORMAT, RIG_VERSION, RigSchema } from './schema'
export * from './message-at'
