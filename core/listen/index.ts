export * from './listen'
export * from './guesses'
export { companionsOf, type Companion } from './companions'
export { ASKED_CLICKS, ASKED_PRESSES, type Ask, type Manner } from './types'
export { messageFor } from './written'
export { ASK_WORDS, COMPANION_WORDS, guessFacts, mannerWords } from './words'
export type { Point } from './trail'
export { addedTo, comparedWith, drawnBy, drawnLabel, writingDown, type Compared, type DrawnOn } from './drawn'
export { knownMessage, type Known } from './known'
export { hasGesture, missingOf } from './settle'
export {
  finishWalk,
  knownIn,
  QUIET_MS,
  RUN_MS,
  startWalk,
  walk,
  type Belongings,
  type Walk,
  type WalkEvent,
} from './walk'
export { doneBy, movedBy, MOVEMENT_START, type Meant, type Movement } from './movement'
