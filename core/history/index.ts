export { cellChanges, type CellChange, type CellState } from './cells'
export { changedFindings, changeReport, groupsOf } from './report'
export type {
  ChangedFinding,
  ChangedFindings,
  ChangeGroup,
  ChangeLine,
  ChangeReport,
  ChangeSection,
  LineKind,
} from './report'
export { isSpokenOf, MOST_LINES, rigAfter, stepWords, type StepWords } from './steps'
