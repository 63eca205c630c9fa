import { useMediaQuery } from '@vueuse/core'

/** What a finger can hit, in px. */
const FINGER_PX = 40

/** The height of the lines of a list in px: as given for a mouse, and never too low for a finger. */
export function useLinePx(px: number) {
  const isFinger = useMediaQuery('(pointer: coarse)')
  return computed(() => (isFinger.value ? Math.max(px, FINGER_PX) : px))
}
