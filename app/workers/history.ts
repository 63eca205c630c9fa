import {
  cellChanges,
  changedFindings,
  changeReport,
  groupsOf,
  stepWords,
  type CellChange,
  type ChangedFindings,
  type ChangeGroup,
  type ChangeReport,
  type StepWords,
} from '#core/history'
import type { Rig, Step } from '#core/rig'
import { bringBackOf, type Difference, type Where } from '#core/rig/compare'

/** What would be done to bring something back. */
export interface WouldBring {
  differences: Difference[]
  /** What comes along because the rest cannot stand without it, in words. */
  also: ChangeGroup[]
}

/** Comparing rigs as the page sees it. */
export interface Historian {
  /** Compare two rigs; they are remembered for what is asked next. */
  compare: (before: Rig, after: Rig) => ChangeReport
  /** The findings that came and went between them. */
  findings: () => ChangedFindings
  /** The numbers given up and taken between them. */
  cells: () => CellChange[]
  /** What it takes to bring places of the earlier one into the later. */
  bringBack: (places: readonly Where[]) => WouldBring
  /** What each edit did, the last first; told some at a time. */
  steps: (rig: Rig, past: readonly Step[], tell: (words: StepWords[]) => void) => void
}

const A_TIME = 25

/** Comparing, to be run in a worker. */
export function createHistorian(): Historian {
  let compared: { before: Rig; after: Rig } | null = null
  const pair = (): { before: Rig; after: Rig } => {
    if (!compared) throw new Error('Nothing is compared yet.')
    return compared
  }
  return {
    compare: (before, after) => {
      compared = { before, after }
      return changeReport(before, after)
    },
    findings: () => changedFindings(pair().before, pair().after),
    cells: () => cellChanges(pair().before, pair().after),
    bringBack: (places) => {
      const { before, after } = pair()
      const { differences, also } = bringBackOf(after, before, places)
      return { differences, also: groupsOf(after, before, also) }
    },
    steps: (rig, past, tell) => {
      let told: StepWords[] = []
      for (const words of stepWords(rig, past)) {
        told.push(words)
        if (told.length < A_TIME) continue
        tell(told)
        told = []
      }
      tell(told)
    },
  }
}
