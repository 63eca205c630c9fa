import { keysOf } from '#core/mappings'
import { programmedAt } from '#core/rig'

/** The keys that the movement at hand plays, where it is a keyboard's: one of them can be joined by itself. */
export function useKeysAtHand() {
  const rigs = useRigStore()
  const desk = useDeskStore()
  return computed(() => {
    const place = desk.gesture ? desk.placeOf(desk.gesture) : null
    return rigs.rig && place ? keysOf(programmedAt(rigs.rig, place)?.assignment.messages[0]) : null
  })
}
