import type { ChangeReport, LineKind } from '#core/history'
import {
  controlsOf,
  modelOf,
  rigIndex,
  splitGestureKey,
  splitGestureRef,
  type Control,
  type Id,
  type Rig,
} from '#core/rig'

/** How much a mark says: of several at one control the first of these shows. */
const WEIGHT: readonly LineKind[] = ['gone', 'new', 'moved', 'changed']

/** What is marked of each controller: by the ids of its controls. */
export function marksOf(report: ChangeReport): Map<Id, Map<Id, LineKind>> {
  const marks = new Map<Id, Map<Id, LineKind>>()
  for (const { kind: at, sections } of report.groups) {
    for (const { lines } of sections) {
      for (const { gesture, kind } of lines) {
        if (gesture === null) continue
        const { controller, gesture: key } = splitGestureRef(gesture)
        const { control } = splitGestureKey(key)
        const own = marks.get(controller) ?? new Map<Id, LineKind>()
        marks.set(controller, own)
        const before = own.get(control)
        // A mapping that is gone leaves its control where it is.
        const mark = at === 'destination' ? 'changed' : kind
        if (before === undefined || WEIGHT.indexOf(mark) < WEIGHT.indexOf(before)) own.set(control, mark)
      }
    }
  }
  return marks
}

/** The controls of a controller in both rigs: those of the later one, and those that are gone. */
export function controlsInBoth(before: Rig | null, after: Rig, id: Id): Control[] {
  const own = (rig: Rig | null): Map<Id, Control> => {
    const controller = rig && rigIndex(rig).controllers.get(id)
    return new Map(controller ? controlsOf(modelOf(rig, controller)) : [])
  }
  const [was, is] = [own(before), own(after)]
  return [...is.values(), ...[...was.values()].filter((control) => !is.has(control.id))]
}
