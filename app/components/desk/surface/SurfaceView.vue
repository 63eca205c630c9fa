<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { printTag } from '#core/midi'
import {
  assignmentsAt,
  grownSurface,
  placeKey,
  sentAddress,
  splitGestureKey,
  type Control,
  type Id,
  type GestureKey,
} from '#core/rig'
import { placeLabels } from '~/lib/surface/labels'
import { blockEnd, nearestTo, type Direction } from '~/lib/surface/walk'
import { drawingOf } from '~/lib/surface/shapes'
import type { ControlTag } from './SurfaceControl.vue'

const desk = useDeskStore()
const rigs = useRigStore()
const marks = useMarks()
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const PADDING = 22

const draw = useDrawStore()
useSurfaceDrag(() => scale.value)
const { nudge, duplicate, remove } = useDrawing()

const surface = computed(() => desk.model?.surface)

/** The controls as they lie now, or as they are being dragged. */
const controls = computed<readonly Control[]>(() => {
  const { placing } = draw
  const all = surface.value?.controls ?? []
  return placing.size === 0
    ? all
    : all.map((control) => ({ ...control, place: placing.get(control.id) ?? control.place }))
})
/** What is drawn: the surface, and the room that a ghost would need. */
const extent = computed(() => {
  const { value } = surface
  return value && draw.ghost.length > 0 ? grownSurface(value, draw.ghost) : (value ?? { width: 0, height: 0 })
})

/** 1 fits the surface into its region. */
const zoom = ref(1)
const scale = computed(() => {
  if (!surface.value || width.value === 0) return 1
  const across = (width.value - 2 * PADDING) / extent.value.width
  const down = (height.value - 2 * PADDING) / extent.value.height
  return Math.max(0.3, Math.min(across, down, 3.2)) * zoom.value
})
const drawn = computed(() => ({
  w: extent.value.width * scale.value,
  h: extent.value.height * scale.value,
}))

const shared = computed(() => new Set(rigs.rig?.accords.flatMap(({ gestures }) => gestures) ?? []))

/** What a gesture sends now, as a tag with its marks; null where nothing is sent. */
function tagOf(key: GestureKey): ControlTag | null {
  const place = desk.placeOf(key)
  const { controller } = desk
  if (!place || !controller) return null
  const assignment = assignmentsAt(controller, place)?.[key]
  const message = assignment?.messages[0]
  const address = message ? sentAddress(message, controller.homeChannel) : null
  if (!assignment || !address) return null
  return {
    gesture: key,
    text: printTag(address),
    severity: marks.value.worstByPlace.get(placeKey(place))?.severity ?? null,
    isShared: shared.value.has(`${controller.id}/${key}`),
    isPinned: assignment.pinned,
  }
}

const tags = computed(() => {
  const all = new Map<Id, ControlTag[]>()
  for (const control of controls.value) {
    all.set(
      control.id,
      control.gestures.flatMap((gesture) => tagOf(`${control.id}.${gesture}`) ?? []),
    )
  }
  return all
})

const labels = computed(() =>
  surface.value
    ? placeLabels(
        controls.value,
        scale.value,
        surface.value,
        (control) => tags.value.get(control.id)?.length ?? 0,
      )
    : [],
)

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

function selectControl(control: Control): void {
  const [first] = control.gestures
  desk.select(`${control.id}.${first ?? 'turn'}`)
}

function clickControl(event: MouseEvent, control: Control): void {
  if (event.shiftKey) desk.toggle(control.id)
  else selectControl(control)
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

function focusControl(control: Control, isMore = false): void {
  if (isMore) desk.selectMany([...desk.selectedIds.filter((id) => id !== control.id), control.id])
  else selectControl(control)
  void nextTick(() => frame.value?.querySelector<SVGElement>(`[data-control="${control.id}"]`)?.focus())
}

const ARROWS: Readonly<Record<string, Direction>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
}

/** Keys of drawing: Alt with arrows nudges (with Shift, further), Delete deletes, Control+D duplicates. */
const FINE_MM = 0.5
const COARSE_MM = 5
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
    remove()
    return true
  }
  if (event.key.toLowerCase() === 'd' && (event.ctrlKey || event.metaKey)) {
    duplicate(1, 'right')
    return true
  }
  return false
}

function walk(event: KeyboardEvent, control: Control): void {
  if (draw.isDrawing && drawKey(event)) return event.preventDefault()
  const direction = ARROWS[event.key]
  if (direction) {
    const next = nearestTo(controls.value, control, direction)
    if (next) focusControl(next, event.shiftKey)
  } else if (event.key === 'Home' || event.key === 'End') {
    focusControl(blockEnd(controls.value, control, event.key === 'Home' ? 'first' : 'last'))
  } else if (event.key === 'Enter') {
    selectControl(control)
    void nextTick(() => document.querySelector<HTMLElement>('[data-address-field]')?.focus())
  } else if (event.key === ' ') {
    selectControl(control)
  } else if (event.key === 'Escape') {
    desk.select(null)
  } else return
  event.preventDefault()
}
</script>

<template>
  <div class="relative h-full">
    <section
      ref="frame"
      class="surface-ground relative h-full"
      :class="zoom > 1 ? 'overflow-auto' : 'overflow-hidden'"
      :aria-label="`Surface of ${desk.controller?.name}`"
      @pointerdown.self="startMarquee($event, frame?.querySelector('svg') ?? null)"
    >
      <svg
        v-if="surface && width > 0"
        class="absolute"
        :style="{
          left: `${Math.max(zoom > 1 ? PADDING : 0, (width - drawn.w) / 2)}px`,
          top: `${Math.max(zoom > 1 ? PADDING : 0, (height - drawn.h) / 2)}px`,
        }"
        :width="drawn.w"
        :height="drawn.h"
        overflow="visible"
        role="group"
        :aria-label="`${desk.controller?.name}: arrows walk from control to control, Enter edits the address`"
        data-testid="surface"
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
        <SurfaceControl
          v-for="place in labels"
          :key="place.control.id"
          :place="place"
          :scale="scale"
          :tags="tags.get(place.control.id) ?? []"
          :is-selected="selectedIds.has(place.control.id)"
          :selected-gesture="desk.gesture"
          :tabindex="place.control.id === tabStop ? 0 : -1"
          @click="clickControl($event, place.control)"
          @pick="desk.select"
          @keydown="walk($event, place.control)"
        />
        <g v-for="control in draw.ghost" :key="`ghost-${control.id}`" class="ghost" data-testid="ghost">
          <template v-for="(part, index) in drawingOf(control)" :key="index">
            <rect
              v-if="part.shape === 'rect'"
              :x="part.x * scale"
              :y="part.y * scale"
              :width="part.w * scale"
              :height="part.h * scale"
              :rx="part.radius * scale"
            />
            <circle
              v-else-if="part.shape === 'circle'"
              :cx="part.cx * scale"
              :cy="part.cy * scale"
              :r="part.r * scale"
            />
          </template>
        </g>
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
    <ZoomButtons v-model="zoom" class="absolute bottom-1.5 left-2" />
  </div>
</template>

<style scoped>
.ghost > * {
  fill: var(--marker);
  fill-opacity: 0.25;
  stroke: var(--ink);
  stroke-dasharray: 3 2.5;
}
.surface-ground {
  background-image: radial-gradient(var(--line) 0.9px, transparent 1px);
  background-size: 13px 13px;
}
</style>
