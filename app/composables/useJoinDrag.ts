import type { Control } from '#core/rig'
import { itemName, type BoardItem } from '~/lib/destinations/board'

/** What is being carried between surface and board: its name, and where the pointer is (px). */
export interface Carried {
  text: string
  x: number
  y: number
}

const CONTROL = '[data-testid=surface] [data-control]'
const ITEM = '[data-board-item]'

/**
 * Carry controls to what they are to move, or the other way, by Interact.js. What is dropped joins first to
 * first: the selected controls to what was dropped on and those after it, and picked things likewise.
 */
export function useJoinDrag() {
  const desk = useDeskStore()
  const joining = useJoiningStore()
  const carried = shallowRef<Carried | null>(null)
  let stop: (() => void) | null = null

  interface Moved {
    target: Element
    clientX: number
    clientY: number
  }

  const controlAt = (element: Element): Control | null => {
    const id = element.getAttribute('data-control')
    return desk.model?.surface.controls.find((control) => control.id === id) ?? null
  }
  const itemAt = (element: Element): BoardItem | null => {
    const key = element.getAttribute('data-board-item')
    return joining.items.find((item) => item.key === key) ?? null
  }

  const named = (count: number, first: string): string =>
    count === 1 ? first : `${first} and ${count - 1} more`
  function carryControls({ target, clientX, clientY }: Moved): void {
    const control = controlAt(target)
    if (!control) return
    if (!desk.selectedIds.includes(control.id)) desk.selectControl(control)
    carried.value = {
      text: named(desk.selected.length, desk.selected[0]?.label ?? ''),
      x: clientX,
      y: clientY,
    }
  }
  function carryItems({ target, clientX, clientY }: Moved): void {
    const item = itemAt(target)
    if (!item) return
    if (!joining.picked.has(item.key)) joining.pick([item.key])
    const [first] = joining.chosen
    carried.value = {
      text: named(joining.chosen.length, first ? itemName(first) : ''),
      x: clientX,
      y: clientY,
    }
  }
  const carry = ({ clientX, clientY }: Moved): void => {
    if (carried.value) carried.value = { ...carried.value, x: clientX, y: clientY }
  }
  const end = (): void => {
    carried.value = null
  }

  function dropOnItem(target: Element): void {
    const item = itemAt(target)
    if (!item) return
    const places = joining.placesOf(desk.selected)
    const from = joining.items.indexOf(item)
    joining.pick(joining.items.slice(from, from + places.length).map(({ key }) => key))
    joining.join()
  }
  function dropOnControl(target: Element): void {
    const control = controlAt(target)
    if (!control) return
    if (!desk.selectedIds.includes(control.id)) {
      const controls = desk.model?.surface.controls ?? []
      const from = controls.indexOf(control)
      const like = controls
        .slice(from)
        .filter((each) => each.block === control.block && each.kind === control.kind)
      desk.selectMany(like.slice(0, Math.max(1, joining.chosen.length)).map(({ id }) => id))
    }
    joining.join()
  }

  onMounted(async () => {
    const { default: interact } = await import('interactjs')
    const listeners = (start: (event: Moved) => void) => ({ listeners: { start, move: carry, end } })
    const parts = [
      interact(CONTROL)
        .draggable(listeners(carryControls))
        .dropzone({
          accept: ITEM,
          overlap: 'pointer',
          ondrop: ({ target }: { target: Element }) => dropOnControl(target),
        }),
      interact(ITEM)
        .draggable(listeners(carryItems))
        .dropzone({
          accept: CONTROL,
          overlap: 'pointer',
          ondrop: ({ target }: { target: Element }) => dropOnItem(target),
        }),
    ]
    stop = () => parts.forEach((part) => part.unset())
    if (isGone) stop()
  })
  let isGone = false
  onBeforeUnmount(() => {
    isGone = true
    stop?.()
  })

  return carried
}
