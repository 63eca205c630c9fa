import {
  cellChanges,
  changedFindings,
  changeReport,
  groupsOf,
  rigAfter,
  stepWords,
  type CellChange,
  type ChangedFindings,
  type ChangeGroup,
  type ChangeReport,
  type StepWords,
} from '#core/history'
import { splitGestureRef, type Id, type Rig, type Step } from '#core/rig'
import { emptyRig } from '#core/rig/parse'
import { bringBackOf, type Difference, type Where } from '#core/rig/compare'
import { openDatabase, type ShelfDatabase } from '~/storage/database'
import { loadRig } from '~/storage/shelf'
import { readVersion } from '~/storage/versions'

/** Where a rig is to be had: from the storage, so that a large one need not be copied by the page; or as it is given. */
export type RigSource =
  | { kind: 'shelf'; id: string; name: string }
  | { kind: 'version'; id: string }
  /** A rig on the shelf, as it was after so many of its edits. */
  | { kind: 'step'; id: string; count: number }
  | { kind: 'given'; rig: Rig }

/** What differs, and what of the two rigs it takes to draw the surfaces on which it does. */
export interface Compared {
  report: ChangeReport
  before: Rig
  after: Rig
}

/** What would be done to bring something back. */
export interface WouldBring {
  differences: Difference[]
  /** What comes along because the rest cannot stand without it, in words. */
  also: ChangeGroup[]
}

/** Comparing rigs as the page sees it. */
export interface Historian {
  /** Compare two rigs; they are remembered for what is asked next. Rejects with a sentence where one of them is not to be had. */
  compare: (before: RigSource, after: RigSource) => Promise<Compared>
  /** The two rigs, whole. */
  both: () => { before: Rig; after: Rig }
  /** The findings that came and went between them. */
  findings: () => ChangedFindings
  /** The numbers given up and taken between them. */
  cells: () => CellChange[]
  /** What it takes to bring places of the earlier one into the later. */
  bringBack: (places: readonly Where[]) => WouldBring
  /** What each edit of a rig did, the last first; told some at a time. `past` where the rig is given. */
  steps: (source: RigSource, past: readonly Step[], tell: (words: StepWords[]) => void) => Promise<void>
}

async function within<T>(work: (database: ShelfDatabase) => Promise<T>): Promise<T> {
  const database = openDatabase()
  try {
    return await work(database)
  } finally {
    database.close()
  }
}

/** A rig on the shelf, with the edits that led to it. */
async function onShelf(id: string, name: string): Promise<{ rig: Rig; past: readonly Step[] }> {
  const open = await within((database) => loadRig(database, id))
  if (!open) throw new Error(`${name} is no longer on the shelf.`)
  return open
}

async function rigFrom(source: RigSource): Promise<Rig> {
  switch (source.kind) {
    case 'given':
      return source.rig
    case 'version': {
      const rig = await within((database) => readVersion(database, source.id))
      if (!rig) throw new Error('This version is no longer there.')
      return rig
    }
    case 'shelf':
      return (await onShelf(source.id, `“${source.name}”`)).rig
    case 'step': {
      const { rig, past } = await onShelf(source.id, 'This rig')
      return rigAfter(rig, past, source.count)
    }
  }
}

/** A rig with nothing but the surfaces of some controllers. */
function surfacesOf(rig: Rig, ids: ReadonlySet<Id>): Rig {
  const controllers = rig.controllers
    .filter(({ id }) => ids.has(id))
    .map((controller) => ({
      ...controller,
      templates: controller.templates.slice(0, 1).map((template) => ({ ...template, base: {}, stacks: [] })),
      slots: [],
    }))
  const models = new Set(controllers.map(({ model }) => model))
  return { ...emptyRig(rig.name), controllers, models: rig.models.filter(({ id }) => models.has(id)) }
}

/** The controllers that a report speaks of. */
const spokenOf = ({ groups }: ChangeReport): Set<Id> =>
  new Set(
    groups.flatMap(({ sections }) =>
      sections.flatMap(({ lines }) =>
        lines.flatMap(({ gesture }) => (gesture === null ? [] : [splitGestureRef(gesture).controller])),
      ),
    ),
  )

const A_TIME = 25

/** Comparing, to be run in a worker. */
export function createHistorian(): Historian {
  let compared: { before: Rig; after: Rig } | null = null
  const pair = (): { before: Rig; after: Rig } => {
    if (!compared) throw new Error('Nothing is compared yet.')
    return compared
  }
  return {
    compare: async (from, to) => {
      const [before, after] = await Promise.all([rigFrom(from), rigFrom(to)])
      compared = { before, after }
      const report = changeReport(before, after)
      const ids = spokenOf(report)
      return { report, before: surfacesOf(before, ids), after: surfacesOf(after, ids) }
    },
    both: pair,
    findings: () => changedFindings(pair().before, pair().after),
    cells: () => cellChanges(pair().before, pair().after),
    bringBack: (places) => {
      const { before, after } = pair()
      const { differences, also } = bringBackOf(after, before, places)
      return { differences, also: groupsOf(after, before, also) }
    },
    steps: async (source, given, tell) => {
      const { rig, past } =
        source.kind === 'shelf'
          ? await onShelf(source.id, `“${source.name}”`)
          : { rig: await rigFrom(source), past: given }
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
