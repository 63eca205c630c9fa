import { useElementSize, type MaybeComputedElementRef } from '@vueuse/core'

/** However small its frame, a surface is drawn no smaller than this, in px per mm. */
const LEAST = 0.3

interface Fitting {
  /** What is kept free on every side, in px. */
  padding?: number
  /** The largest scale, in px per mm. */
  most?: number
}

/**
 * A surface as large as it goes into its frame.
 *
 * @param extent How wide and high it is, in mm; null as long as there is none.
 * @returns The size of the frame in px, and the scale in px per mm.
 */
export function useFittedSurface(
  frame: MaybeComputedElementRef,
  extent: () => { width: number; height: number } | null | undefined,
  { padding = 0, most = Infinity }: Fitting = {},
) {
  const { width, height } = useElementSize(frame)
  const scale = computed(() => {
    const own = extent()
    if (!own || width.value === 0) return 1
    const across = (width.value - 2 * padding) / own.width
    const down = (height.value - 2 * padding) / own.height
    return Math.max(LEAST, Math.min(across, down, most))
  })
  return { width, height, scale }
}
