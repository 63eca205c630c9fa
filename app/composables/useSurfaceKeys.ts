import type { Control } from '#core/rig'
import { focusWhenThere } from '~/lib/focus'
import { blockEnd, nearestTo, type Direction } from '~/lib/surface/walk'

const ARROWS: Readonly<Record<string, Direction>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
}
const FINE_MM = 0.5
const COARSE_MM = 5

/**
 * Keys on a surface. Arrows walk (with Shift they select more), Home and End go along the block, Enter goes
 * to the address. While drawing: Alt with arrows nudges (with Shift, further), Delete deletes, Control+D
 * duplicates.
 */
export function useSurfaceKeys(controls: () => readonly Control[], focus: (control: Control) => void) {
  const desk = useDeskStore()
  const draw = useDrawStore()
  const { nudge, duplicate, remove } = useDrawing()

  function goTo(control: Control, isMore: boolean): void {
    if (isMore) desk.selectMany([...desk.selectedIds.filter((id) => id !== control.id), control.id])
    else desk.selectControl(control)
    focus(control)
  }

  function drawKey(event: KeyboardEvent): boolean {
    const direction = ARROWS[event.key]
    if (direction && event.altKey) {
      const by = event.shiftKey ? COARSE_MM : FINE_MM
      nudge(
        direction === 'left' ? -by : direction === 'right' ? by : 0,
        direction === 'up' ? -by : direction === 'down' ? by : 0,
      )
      return true
    }
    if (event.key === 'Delete' || event.key === 'Backspace') {
      void remove()
      return true
    }
    if (event.key.toLowerCase() === 'd' && (event.ctrlKey || event.metaKey)) {
      duplicate(1, 'right')
      return true
    }
    return false
  }

  return function walk(event: KeyboardEvent, control: Control): void {
    if (draw.isDrawing && drawKey(event)) return event.preventDefault()
    const direction = ARROWS[event.key]
    if (direction) {
      const next = nearestTo(controls(), control, direction)
      if (next) goTo(next, event.shiftKey)
    } else if (event.key === 'Home' || event.key === 'End') {
      goTo(blockEnd(controls(), control, event.key === 'Home' ? 'first' : 'last'), false)
    } else if (event.key === 'Enter') {
      desk.selectControl(control)
      focusWhenThere('[data-address-field]')
    } else if (event.key === ' ') {
      desk.selectControl(control)
    } else if (event.key === 'Escape') {
      desk.select(null)
    } else return
    event.preventDefault()
  }
}
