<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { fittedScale, grownSurface, splitGestureKey, type Control } from '#core/rig'
import { labelRooms, placeLabels, type LabelPlace } from '#core/sheets/drawing'
import { drawControls, type ControlTag, type DrawnControl } from '~/lib/surface/drawn'

const desk = useDeskStore()
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const PADDING = 9

const draw = useDrawStore()
const waiting = computed(() => draw.waitingOf(desk.controller?.id))
/** What is to be: laid out, or waiting to be moved. */
const ghosts = computed<readonly Control[]>(() => [...draw.ghost, ...(waiting.value?.controls ?? [])])
useSurfaceDrag(() => scale.value)

const surface = computed(() => desk.model?.surface)

/** The controls as they lie now, or as they are being dragged. */
const controls = computed<readonly Control[]>(() => {
  const { placing } = draw
  const all = surface.value?.controls ?? []
  return placing.size === 0
    ? all
    : all.map((control) => {
        const place = placing.get(control.id)
        return place ? { ...control, place } : control
      })
})
/** What is drawn: the surface, and the room that a ghost would need. */
const extent = computed(() => {
  const { value } = surface
  return value && ghosts.value.length > 0
    ? grownSurface(value, ghosts.value)
    : (value ?? { width: 0, height: 0 })
})

const { zoom, zoomTo, isPanning, isSpaceHeld } = useZoom(frame)
const scale = computed(() => {
  if (!surface.value || width.value === 0) return 1
  const within = { width: width.value, height: height.value }
  return fittedScale(extent.value, within, { padding: PADDING, most: 3.2 }) * zoom.value
})
const size = computed(() => ({
  w: extent.value.width * scale.value,
  h: extent.value.height * scale.value,
}))

const tags = useSurfaceTags(() => surface.value?.controls ?? [])

/** How many tags each control has; the same list as long as it says the same. */
const tagCounts = computed<ReadonlyMap<string, number>>((before) => {
  const counts = new Map([...tags.value].map(([id, list]) => [id, list.length]))
  const isSame = before?.size === counts.size && [...counts].every(([id, count]) => before.get(id) === count)
  return isSame ? before : counts
})
const rooms = computed(() => (surface.value ? labelRooms(controls.value, scale.value, surface.value) : []))
const labels = computed<readonly LabelPlace[]>((before) => {
  const counts = tagCounts.value
  return placeLabels(rooms.value, ({ id }) => counts.get(id) ?? 0, before)
})

const selectedControl = computed(() => (desk.gesture ? splitGestureKey(desk.gesture).control : null))
/** Where the handle for resizing is: the lower right corner of the one control that is selected while drawing. */
const handle = computed(() => {
  const only =
    draw.isDrawing && desk.selected.length === 1
      ? controls.value.find(({ id }) => id === desk.selectedIds[0])
      : null
  return only
    ? { x: (only.place.x + only.place.w) * scale.value, y: (only.place.y + only.place.h) * scale.value }
    : null
})
const selectedIds = computed(() => new Set(desk.selectedIds))
const tabStop = computed(() => selectedControl.value ?? surface.value?.controls[0]?.id ?? null)

const lit = useSurfaceLights()
const NO_TAGS: readonly ControlTag[] = []
const drawn = computed<readonly DrawnControl[]>((before) => {
  const [all, chosen, stop] = [tags.value, selectedIds.value, tabStop.value]
  const { gesture } = desk
  const at = scale.value
  const shining = lit.value
  return drawControls(
    labels.value.map((place) => {
      const { id } = place.control
      const isSelected = chosen.has(id)
      return {
        place,
        scale: at,
        tags: all.get(id) ?? NO_TAGS,
        selected: isSelected ? { gesture } : null,
        isTabStop: id === stop,
        light: shining.get(id),
      }
    }),
    before,
  )
})

/** The control that an event came from: one listener serves them all. */
function controlOf(event: Event): Control | null {
  const id = (event.target as Element | null)?.closest('[data-control]')?.getAttribute('data-control')
  return surface.value?.controls.find((control) => control.id === id) ?? null
}
function onClick(event: MouseEvent): void {
  const control = controlOf(event)
  if (!control) return
  const gesture = (event.target as Element).closest('[data-tag]')?.getAttribute('data-tag')
  if (event.shiftKey) desk.toggle(control.id)
  else if (gesture) desk.select(gesture)
  else desk.selectControl(control)
}

/** Select what lies in a rectangle of the drawing, given in px; with Shift, in addition. */
function selectWithin(
  box: { left: number; top: number; right: number; bottom: number },
  isMore: boolean,
): void {
  const inside = (surface.value?.controls ?? []).filter(({ place }) => {
    const [x, y] = [place.x * scale.value, place.y * scale.value]
    const [right, bottom] = [x + place.w * scale.value, y + place.h * scale.value]
    return x < box.right && right > box.left && y < box.bottom && bottom > box.top
  })
  const ids = inside.map(({ id }) => id)
  desk.selectMany(isMore ? [...new Set([...desk.selectedIds, ...ids])] : ids)
}
const { marquee, start: startMarquee } = useMarquee(selectWithin, () => desk.select(null))

const walk = useSurfaceKeys(
  () => controls.value,
  ({ id }) => void nextTick(() => frame.value?.querySelector<SVGElement>(`[data-control="${id}"]`)?.focus()),
)
function onKey(event: KeyboardEvent): void {
  const control = controlOf(event)
  if (control) walk(event, control)
}
</script>

<template>
  <div class="surface-ground flex h-full flex-col">
    <section
      ref="frame"
      class="relative min-h-0 flex-1"
      :class="[
        zoom > 1 ? 'overflow-auto' : 'overflow-hidden',
        isPanning ? 'cursor-grabbing' : isSpaceHeld && zoom > 1 && 'cursor-grab',
      ]"
      :aria-label="`Surface of ${desk.controller?.name}`"
      @pointerdown.self="startMarquee($event, frame?.querySelector('svg') ?? null)"
    >
      <svg
        v-if="surface && width > 0"
        class="absolute"
        :style="{
          left: `${Math.max(zoom > 1 ? PADDING : 0, (width - size.w) / 2)}px`,
          top: `${Math.max(zoom > 1 ? PADDING : 0, (height - size.h) / 2)}px`,
        }"
        :width="size.w"
        :height="size.h"
        overflow="visible"
        role="group"
        :aria-label="`${desk.controller?.name}: arrows walk from control to control, Enter edits the address`"
        data-testid="surface"
        @click="onClick"
        @keydown="onKey"
      >
        <rect
          x="0.5"
          y="0.5"
          :width="surface.width * scale - 1"
          :height="surface.height * scale - 1"
          rx="12"
          class="fill-raised stroke-line"
          @pointerdown="startMarquee($event, ($event.currentTarget as SVGElement).ownerSVGElement)"
        />
        <SurfaceControls :drawn="drawn" />
        <LazyHeardMarks v-if="desk.heard.length > 0" :scale="scale" />
        <LazyGhostControls
          v-if="ghosts.length > 0"
          :controls="ghosts"
          :scale="scale"
          :next="waiting?.next"
          @choose="waiting?.choose($event)"
        />
        <rect
          v-if="handle"
          :x="handle.x - 4"
          :y="handle.y - 4"
          width="9"
          height="9"
          rx="2"
          class="fill-marker stroke-ink cursor-nwse-resize"
          data-testid="resize-handle"
        />
        <rect
          v-if="marquee"
          :x="marquee.left"
          :y="marquee.top"
          :width="marquee.right - marquee.left"
          :height="marquee.bottom - marquee.top"
          class="fill-marker stroke-ink"
          fill-opacity="0.25"
          stroke-dasharray="3 2"
        />
      </svg>
    </section>
    <div class="flex min-h-6 shrink-0 items-center justify-between px-2 pb-1">
      <ZoomButtons :zoom="zoom" @zoom="zoomTo" />
      <LensSwitch />
    </div>
  </div>
</template>
