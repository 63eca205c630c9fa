import { useEventListener } from '@vueuse/core'

/** A rectangle in px of the drawing. */
export interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

/** A press that moves less than this (px) is a click. */
const CLICK_PX = 4

/** Draw a rectangle with the pointer on a drawing; `done` gets it, `clicked` is called for a mere click. */
export function useMarquee(done: (box: Box, isMore: boolean) => void, clicked: () => void) {
  const marquee = shallowRef<Box | null>(null)
  let origin: { x: number; y: number; drawing: Element; isMore: boolean } | null = null

  function pointOn(drawing: Element, event: PointerEvent): { x: number; y: number } {
    const box = drawing.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }

  function start(event: PointerEvent, drawing: Element | null): void {
    if (event.button !== 0 || !drawing) return
    origin = { ...pointOn(drawing, event), drawing, isMore: event.shiftKey }
  }

  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    if (!origin) return
    const { x, y } = pointOn(origin.drawing, event)
    if (!marquee.value && Math.hypot(x - origin.x, y - origin.y) < CLICK_PX) return
    marquee.value = {
      left: Math.min(x, origin.x),
      top: Math.min(y, origin.y),
      right: Math.max(x, origin.x),
      bottom: Math.max(y, origin.y),
    }
  })

  useEventListener(window, 'pointerup', () => {
    if (!origin) return
    if (marquee.value) done(marquee.value, origin.isMore)
    else clicked()
    marquee.value = null
    origin = null
  })

  return { marquee, start }
}
