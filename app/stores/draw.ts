import { defineStore } from 'pinia'
import { moved, snapMove, type Control, type Id } from '#core/rig'
import { useDeskStore } from './desk'

/** Controls that wait to be moved, and how another of them is made next. */
export interface Waiting {
  controller: Id
  controls: readonly Control[]
  next: Id | null
  choose: (id: Id) => void
}

/** What is being drawn on the surface and not yet made: a ghost of new controls, a drag, a new size. */
export const useDrawStore = defineStore('draw', () => {
  const desk = useDeskStore()
  const ghost = shallowRef<readonly Control[]>([])
  /** Controls of a controller that are drawn when they are moved: in their places, one of them next. */
  const waiting = shallowRef<Waiting | null>(null)
  /** Those of one controller. */
  const waitingOf = (id: Id | undefined): Waiting | null =>
    waiting.value?.controller === id ? waiting.value : null
  const drag = shallowRef<{ dx: number; dy: number } | null>(null)
  const resize = shallowRef<{ dw: number; dh: number } | null>(null)

  const isDrawing = computed(() => desk.panel === 'draw')
  watch(isDrawing, () => {
    ghost.value = []
  })

  const others = (): readonly Control[] => {
    const ids = new Set(desk.selectedIds)
    return desk.model?.surface.controls.filter(({ id }) => !ids.has(id)) ?? []
  }

  /** The places of the selected controls as dragged so far, snapped to grid and neighbours; in mm. */
  const placing = computed<ReadonlyMap<Id, Control['place']>>(() => {
    const { selected } = desk
    if (selected.length === 0) return new Map()
    if (drag.value) {
      const by = snapMove(selected, others(), drag.value.dx, drag.value.dy)
      return moved(selected, by.dx, by.dy)
    }
    if (resize.value) {
      const { dw, dh } = resize.value
      const half = (value: number): number => Math.round(value * 2) / 2
      return new Map(
        selected.map(({ id, place }) => [
          id,
          { ...place, w: Math.max(3, half(place.w + dw)), h: Math.max(3, half(place.h + dh)) },
        ]),
      )
    }
    return new Map()
  })

  return { ghost, waiting, waitingOf, drag, resize, isDrawing, placing }
})
