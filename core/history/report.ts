import { check, type Severity } from '../conflicts'
import { mappingName, unheardAfter } from '../mappings'
import type { GestureRef, Id, Rig } from '../rig'
import { compareRigs, whereKey, type Difference, type Where } from '../rig/compare'
import { describe } from './describe'

/** How a line stands: `moved` is an assignment that sends to another address, or a control at another place. */
export type LineKind = 'new' | 'gone' | 'moved' | 'changed'

/** One thing that differs, as a player reads it. */
export interface ChangeLine {
  key: string
  kind: LineKind
  name: string
  /** What it was and is, in words; null where the name says it all. */
  was: string | null
  is: string | null
  /** What to bring back to have it as it was. */
  where: Where
  /** The gesture that it is about, to find it on the surface; null where it is about none. */
  gesture: GestureRef | null
}

/** What differs in one layer, one list of a destination, or the settings. */
export interface ChangeSection {
  name: string
  lines: ChangeLine[]
}

/** What differs at one controller, one destination, or the rest of the rig. */
export interface ChangeGroup {
  key: string
  kind: 'controller' | 'destination' | 'rig'
  /** The controller or destination; null for the rest of the rig. */
  id: Id | null
  name: string
  sections: ChangeSection[]
  count: number
}

/** A finding that came or went. */
export interface ChangedFinding {
  id: string
  severity: Severity
  message: string
}

/** In what one rig differs from another, in a player's words. Plain data. */
export interface ChangeReport {
  groups: ChangeGroup[]
  /** How many things differ. */
  count: number
  /** Mappings that were heard before and are not now: they must be taught again. */
  teach: string[]
}

/** Findings that are there now and were not before, and the other way round. */
export interface ChangedFindings {
  came: ChangedFinding[]
  went: ChangedFinding[]
}

/** Where a line stands in the report. */
export interface Described extends Omit<ChangeLine, 'key' | 'where'> {
  group: Pick<ChangeGroup, 'kind' | 'id' | 'name'>
  section: string
}

const groupKey = ({ kind, id }: Described['group']): string => `${kind} ${id ?? ''}`

const ORDER: Readonly<Record<ChangeGroup['kind'], number>> = { controller: 0, destination: 1, rig: 2 }

/** The differences of two rigs, by controller, layer and destination, in words. */
export function groupsOf(before: Rig, after: Rig, differences: readonly Difference[]): ChangeGroup[] {
  const groups = new Map<string, ChangeGroup>()
  for (const difference of differences) {
    const { group: at, section: name, ...line } = describe(before, after, difference)
    const key = groupKey(at)
    const group = groups.get(key) ?? { ...at, key, sections: [], count: 0 }
    groups.set(key, group)
    let section = group.sections.find((each) => each.name === name)
    if (!section) {
      section = { name, lines: [] }
      group.sections.push(section)
    }
    section.lines.push({ ...line, key: whereKey(difference.where), where: difference.where })
    group.count++
  }
  return [...groups.values()].sort((a, b) => ORDER[a.kind] - ORDER[b.kind])
}

/** What findings came and went from one rig to another. */
export function changedFindings(before: Rig, after: Rig): ChangedFindings {
  const told = (rig: Rig): Map<string, ChangedFinding> =>
    new Map(check(rig).findings.map(({ id, severity, message }) => [id, { id, severity, message }]))
  const [was, is] = [told(before), told(after)]
  return {
    came: [...is.values()].filter(({ id }) => !was.has(id)),
    went: [...was.values()].filter(({ id }) => !is.has(id)),
  }
}

/**
 * In what a rig differs from an earlier one: by controller, layer and destination, with addresses old and new, and what must be
 * taught again.
 */
export function changeReport(before: Rig, after: Rig): ChangeReport {
  const differences = compareRigs(before, after)
  return {
    groups: groupsOf(before, after, differences),
    count: differences.length,
    teach: [...new Set(unheardAfter(before, after).map((mapping) => mappingName(before, mapping)))],
  }
}
