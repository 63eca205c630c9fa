import { printTag } from '#core/midi'
import { assignmentsAt, placeKey, sentAddress, type Control, type GestureKey, type Id } from '#core/rig'
import type { Severity } from '#core/conflicts'

/** An address on the surface, with what is to be said of it. */
export interface ControlTag {
  gesture: GestureKey
  text: string
  severity: Severity | null
  isShared: boolean
  isPinned: boolean
}

const isSameTag = (a: ControlTag, b: ControlTag | undefined): boolean =>
  b !== undefined &&
  a.gesture === b.gesture &&
  a.text === b.text &&
  a.severity === b.severity &&
  a.isShared === b.isShared &&
  a.isPinned === b.isPinned

/** What the controls of the Desk's controller send now. A list that is as before stays the same list. */
export function useSurfaceTags(controls: () => readonly Control[]) {
  const desk = useDeskStore()
  const rigs = useRigStore()
  const marks = useMarks()
  const shared = computed(() => new Set(rigs.rig?.accords.flatMap(({ gestures }) => gestures) ?? []))

  function tagOf(key: GestureKey): ControlTag | null {
    const place = desk.placeOf(key)
    const { controller } = desk
    if (!place || !controller) return null
    const assignment = assignmentsAt(controller, place)?.[key]
    const message = assignment?.messages[0]
    const address = message ? sentAddress(message, controller.homeChannel) : null
    if (!assignment || !address) return null
    return {
      gesture: key,
      text: printTag(address),
      severity: marks.value.worstByPlace.get(placeKey(place))?.severity ?? null,
      isShared: shared.value.has(`${controller.id}/${key}`),
      isPinned: assignment.pinned,
    }
  }

  return computed<ReadonlyMap<Id, readonly ControlTag[]>>((before) => {
    const all = new Map<Id, readonly ControlTag[]>()
    let isAsBefore = true
    for (const { id, gestures } of controls()) {
      const tags = gestures.flatMap((gesture) => tagOf(`${id}.${gesture}`) ?? [])
      const old = before?.get(id)
      const isSame = old?.length === tags.length && tags.every((tag, index) => isSameTag(tag, old[index]))
      all.set(id, isSame ? old : tags)
      isAsBefore &&= isSame
    }
    return before && isAsBefore && before.size === all.size ? before : all
  })
}
