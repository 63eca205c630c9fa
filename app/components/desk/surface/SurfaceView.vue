<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { printTag } from '#core/midi'
import {
  assignmentsAt,
  placeKey,
  sentAddress,
  splitGestureKey,
  type Control,
  type GestureKey,
} from '#core/rig'
import { placeLabels } from '~/lib/surface/labels'
import { blockEnd, nearestTo, type Direction } from '~/lib/surface/walk'
import type { ControlTag } from './SurfaceControl.vue'

const desk = useDeskStore()
const rigs = useRigStore()
const marks = useMarks()
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame)
const PADDING = 22

const surface = computed(() => desk.model?.surface)
const scale = computed(() => {
  if (!surface.value || width.value === 0) return 1
  const across = (width.value - 2 * PADDING) / surface.value.width
  const down = (height.value - 2 * PADDING) / surface.value.height
  return Math.max(0.3, Math.min(across, down, 3.2))
})
const drawn = computed(() => ({
  w: (surface.value?.width ?? 0) * scale.value,
  h: (surface.value?.height ?? 0) * scale.value,
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
  const all = new Map<Control, ControlTag[]>()
  for (const control of surface.value?.controls ?? []) {
    all.set(
      control,
      control.gestures.flatMap((gesture) => tagOf(`${control.id}.${gesture}`) ?? []),
    )
  }
  return all
})

const labels = computed(() =>
  surface.value
    ? placeLabels(
        surface.value.controls,
        scale.value,
        surface.value,
        (control) => tags.value.get(control)?.length ?? 0,
      )
    : [],
)

const selectedControl = computed(() => (desk.gesture ? splitGestureKey(desk.gesture).control : null))
const tabStop = computed(() => selectedControl.value ?? surface.value?.controls[0]?.id ?? null)

function selectControl(control: Control): void {
  const [first] = control.gestures
  desk.select(`${control.id}.${first ?? 'turn'}`)
}

function focusControl(control: Control): void {
  selectControl(control)
  void nextTick(() => frame.value?.querySelector<SVGElement>(`[data-control="${control.id}"]`)?.focus())
}

const ARROWS: Readonly<Record<string, Direction>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
}

function walk(event: KeyboardEvent, control: Control): void {
  const controls = surface.value?.controls ?? []
  const direction = ARROWS[event.key]
  if (direction) {
    const next = nearestTo(controls, control, direction)
    if (next) focusControl(next)
  } else if (event.key === 'Home' || event.key === 'End') {
    focusControl(blockEnd(controls, control, event.key === 'Home' ? 'first' : 'last'))
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
  <section
    ref="frame"
    class="surface-ground relative h-full overflow-hidden"
    :aria-label="`Surface of ${desk.controller?.name}`"
    @click.self="desk.select(null)"
  >
    <svg
      v-if="surface && width > 0"
      class="absolute"
      :style="{ left: `${(width - drawn.w) / 2}px`, top: `${(height - drawn.h) / 2}px` }"
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
        :width="drawn.w - 1"
        :height="drawn.h - 1"
        rx="12"
        class="fill-raised stroke-line"
        @click="desk.select(null)"
      />
      <SurfaceControl
        v-for="place in labels"
        :key="place.control.id"
        :place="place"
        :scale="scale"
        :tags="tags.get(place.control) ?? []"
        :is-selected="place.control.id === selectedControl"
        :selected-gesture="desk.gesture"
        :tabindex="place.control.id === tabStop ? 0 : -1"
        @click="selectControl(place.control)"
        @pick="desk.select"
        @keydown="walk($event, place.control)"
      />
    </svg>
  </section>
</template>

<style scoped>
.surface-ground {
  background-image: radial-gradient(var(--line) 0.9px, transparent 1px);
  background-size: 13px 13px;
}
</style>
