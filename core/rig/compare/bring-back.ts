import { produce } from 'immer'
import { EditError, recorded, type Step } from '../edits'
import { referenceFaults, type ReferenceFault } from '../references'
import { printPath, type PathStep } from '../problems'
import type { Rig } from '../types'
import { makeDifferences } from './apply'
import { compareRigs, isSame } from './compare'
import { isWithin, type Difference, type Where } from './difference'

/** What is to be done to bring something back. */
export interface BroughtBack {
  /** All that is done: what was wanted, and what it cannot stand without. */
  differences: Difference[]
  /** What it cannot stand without. */
  also: Difference[]
}

/** A path of list indices as a place of ids. Lists whose items have no id are looked into no further. */
function whereOf(rig: Rig, path: readonly PathStep[]): Where {
  const where: string[] = []
  let value: unknown = rig
  for (const step of path) {
    value = (value as Record<PathStep, unknown> | undefined)?.[step]
    if (typeof step !== 'number') where.push(step)
    else if (typeof value === 'object' && value !== null && 'id' in value) where.push(String(value.id))
    else break
  }
  return where
}

/** The words of references: `syzra/k1.turn` names `syzra`, `k1` and `turn`. */
const namesIn = (text: string): string[] => text.split(/[/.]/)

/** What a fault speaks of: the ids that lead nowhere. */
function namedBy(rig: Rig, { path }: ReferenceFault): Set<string> {
  let value: unknown = rig
  for (const step of path) value = (value as Record<PathStep, unknown> | undefined)?.[step]
  const found = new Set<string>()
  const gather = (each: unknown): void => {
    if (typeof each === 'string') for (const name of namesIn(each)) found.add(name)
    else if (typeof each === 'object' && each !== null) Object.values(each).forEach(gather)
  }
  gather(value)
  for (const step of path.slice(-1)) if (typeof step === 'string') gather(step)
  return found
}

const applied = (rig: Rig, differences: readonly Difference[]): Rig =>
  produce(rig, (draft) => {
    makeDifferences(draft as Rig, differences)
  })

const MOST_FAULTS = 1000

/** What could mend a fault, the likelier first: what it names comes back; then it is itself as it was. */
function cures(rig: Rig, fault: ReferenceFault, left: readonly Difference[]): Difference[] {
  const names = namedBy(rig, fault)
  const where = whereOf(rig, fault.path)
  const isNamed = ({ kind, where: at }: Difference): boolean => kind !== 'order' && names.has(at.at(-1) ?? '')
  const isThere = ({ where: at }: Difference): boolean => isWithin(where, at) || isWithin(at, where)
  const holds = ({ where: at }: Difference): boolean => at.some((step) => names.has(step))
  return [
    ...left.filter((each) => isNamed(each) && each.kind === 'new'),
    ...left.filter(isThere),
    ...left.filter((each) => !isThere(each) && holds(each)),
  ]
}

/**
 * What brings places of another rig into this one: the differences at them, and as many more as it takes for every reference to lead
 * somewhere. With every difference made the rig is the other one, which is valid, so there always is such a set.
 */
export function bringBackOf(now: Rig, then: Rig, places: readonly Where[]): BroughtBack {
  const all = compareRigs(now, then)
  // What holds a place comes with it where it is gone; the order of what holds it is another matter.
  const wanted = all.filter(({ kind, where }) =>
    places.some((place) => isWithin(where, place) || (kind !== 'order' && isWithin(place, where))),
  )
  const chosen = new Set(wanted)
  const rest = (): Difference[] => all.filter((each) => !chosen.has(each))
  for (;;) {
    const next = applied(now, [...chosen])
    const [fault] = referenceFaults(next, 1)
    if (!fault) break
    const isMended = (cure: Difference): boolean =>
      !referenceFaults(applied(next, [cure]), MOST_FAULTS).some((each) => isSame(each, fault))
    const possible = cures(next, fault, rest())
    const cure = possible.find(isMended)
    const more = cure ? [cure] : possible.length > 0 ? possible : rest()
    if (more.length === 0) break
    for (const each of more) chosen.add(each)
  }
  return {
    differences: all.filter((each) => chosen.has(each)),
    also: all.filter((each) => chosen.has(each) && !wanted.includes(each)),
  }
}

/**
 * Make differences in a rig, as one step that can be undone. Throws an EditError, with the rig unchanged, where there is no place for one
 * of them, or where a reference would lead nowhere.
 */
export function withDifferences(
  rig: Rig,
  label: string,
  differences: readonly Difference[],
): { rig: Rig; step: Step } {
  const made = recorded(rig, label, (draft) => {
    const [lost] = makeDifferences(draft, differences)
    if (lost)
      throw new EditError(
        'What holds this is no longer in the rig. Bring back the whole controller or destination.',
      )
  })
  const [fault] = referenceFaults(made.rig, 1)
  if (fault)
    throw new EditError(
      `This cannot stand by itself: ${printPath(fault.path)} ${fault.message}. Bring back more of that version.`,
    )
  return made
}
