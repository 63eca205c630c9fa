import type { GestureRef } from '#core/rig'

/** The gestures that share something on purpose; the same set as long as the accords are the same. */
export function useSharedGestures() {
  const rigs = useRigStore()
  const accords = computed(() => rigs.rig?.accords)
  return computed<ReadonlySet<GestureRef>>(
    () => new Set(accords.value?.flatMap(({ gestures }) => gestures) ?? []),
  )
}
