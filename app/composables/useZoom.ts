import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'

export const ZOOM_LIMIT = 6
export const ZOOM_STEP = 1.25
const WHEEL_STEP = 1.0018

/**
 * Zoom of a scrolling region: 1 fits it. Control (or a pinch) with the wheel zooms about the pointer; the
 * middle button, or Space with the first, drags the region.
 */
export function useZoom(frame: Readonly<Ref<HTMLElement | null>>) {
  const zoom = ref(1)
  /** Where the pointer was last while panning. */
  const pannedFrom = ref<{ x: number; y: number } | null>(null)
  const isPanning = computed(() => pannedFrom.value !== null)
  const isSpaceHeld = ref(false)

  /** Zoom, and keep what lies at a point of the region (px from its left top) where it is. */
  function zoomTo(next: number, at?: { x: number; y: number }): void {
    const region = frame.value
    const before = zoom.value
    zoom.value = Math.min(ZOOM_LIMIT, Math.max(1, next))
    if (!region || zoom.value === before) return
    const { x, y } = at ?? { x: region.clientWidth / 2, y: region.clientHeight / 2 }
    const ratio = zoom.value / before
    const [left, top] = [(region.scrollLeft + x) * ratio - x, (region.scrollTop + y) * ratio - y]
    void nextTick(() => region.scrollTo({ left, top, behavior: 'instant' }))
  }

  useEventListener(
    frame,
    'wheel',
    (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return
      event.preventDefault()
      const box = frame.value?.getBoundingClientRect()
      zoomTo(zoom.value * WHEEL_STEP ** -event.deltaY, {
        x: event.clientX - (box?.left ?? 0),
        y: event.clientY - (box?.top ?? 0),
      })
    },
    { passive: false },
  )

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.code === 'Space' && !isTyping(event.target)) isSpaceHeld.value = true
  })
  useEventListener(window, 'keyup', (event: KeyboardEvent) => {
    if (event.code === 'Space') isSpaceHeld.value = false
  })
  useEventListener(
    frame,
    'pointerdown',
    (event: PointerEvent) => {
      if (event.button !== 1 && !(event.button === 0 && isSpaceHeld.value && zoom.value > 1)) return
      event.preventDefault()
      event.stopPropagation()
      pannedFrom.value = { x: event.clientX, y: event.clientY }
    },
    { capture: true },
  )
  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    const from = pannedFrom.value
    if (!from) return
    const { clientX: x, clientY: y } = event
    frame.value?.scrollBy({ left: from.x - x, top: from.y - y, behavior: 'instant' })
    pannedFrom.value = { x, y }
  })
  useEventListener(window, 'pointerup', () => {
    pannedFrom.value = null
  })

  return { zoom, zoomTo, isPanning, isSpaceHeld }
}
