import { useElementSize, type MaybeComputedElementRef } from '@vueuse/core'
import { fittedScale } from '#core/rig'

/**
 * A surface as large as it goes into its frame: see `fittedScale`.
 *
 * @param extent How wide and high it is, in mm; null as long as there is none.
 * @returns The size of the frame in px, and the scale in px per mm.
 */
export function useFittedSurface(
  frame: MaybeComputedElementRef,
  extent: () => { width: number; height: number } | null | undefined,
  fitting: Parameters<typeof fittedScale>[2] = {},
) {
  const { width, height } = useElementSize(frame)
  const scale = computed(() => {
    const own = extent()
    return own && width.value > 0
      ? fittedScale(own, { width: width.value, height: height.value }, fitting)
      : 1
  })
  return { width, height, scale }
}
