import { useEventListener } from '@vueuse/core'

/** Between what is opened and what opened it, and to the edge of the page, in px. */
const GAP_PX = 4
const EDGE_PX = 8
const ROOM_PX = 288
const LEAST_PX = 120

/**
 * Lay a list that is opened over everything else, where its opener stands: below it, or above where there is more room. So it is
 * not cut off by a region that scrolls.
 */
export function useOverlay(
  opener: () => HTMLElement | null,
  list: () => HTMLElement | null,
  isRight: () => boolean,
) {
  const style = ref<Record<string, string>>({ visibility: 'hidden' })
  const isOpen = computed(() => list() !== null)

  function lay(shift = { x: 0, y: 0 }): void {
    const at = opener()?.getBoundingClientRect()
    if (!at) return
    const [below, above] = [innerHeight - at.bottom, at.top]
    const isAbove = below < LEAST_PX && above > below
    const height = `${Math.min(ROOM_PX, (isAbove ? above : below) - GAP_PX - EDGE_PX)}px`
    const y: Record<string, string> = isAbove
      ? { bottom: `${innerHeight - at.top + GAP_PX + shift.y}px` }
      : { top: `${at.bottom + GAP_PX - shift.y}px` }
    const x: Record<string, string> = isRight()
      ? { right: `${document.documentElement.clientWidth - at.right + shift.x}px` }
      : { left: `${at.left - shift.x}px` }
    style.value = { position: 'fixed', minWidth: `${at.width}px`, maxHeight: height, ...x, ...y }
  }
  /** A region that is moved or contained counts from its own corner: what that shifts is taken back. */
  async function settle(): Promise<void> {
    lay()
    await nextTick()
    const [at, is] = [opener()?.getBoundingClientRect(), list()?.getBoundingClientRect()]
    if (!at || !is) return
    const x = isRight() ? is.right - at.right : is.left - at.left
    const y = is.top > at.top ? is.top - at.bottom - GAP_PX : is.bottom - at.top + GAP_PX
    if (Math.abs(x) > 1 || Math.abs(y) > 1) lay({ x, y })
  }
  watch(isOpen, (now) => {
    if (now) void settle()
    else style.value = { visibility: 'hidden' }
  })
  const follow = (event: Event): void => {
    if (isOpen.value && event.target !== list()) void settle()
  }
  useEventListener(window, 'scroll', follow, { capture: true, passive: true })
  useEventListener(window, 'resize', follow)
  return style
}
