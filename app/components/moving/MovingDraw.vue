<script setup lang="ts">
import { Undo2 } from '@lucide/vue'
import {
  controlName,
  KIND_FACTS,
  layOut,
  modelOf,
  namesByPattern,
  placeFor,
  usualPlan,
  type Control,
  type ControlKind,
  type Controller,
} from '#core/rig'
import { CONTROL_KINDS, countWords, rowsRefusal } from '~/lib/surface/block-form'
import { knownWords } from '~/lib/moving/words'
import type { Where } from '~/stores/moving'

/** Draw the controls of real hardware by moving them: rows and columns of a kind, one after the other. */
const { controller, where } = defineProps<{ controller: Controller; where: Where }>()
const moving = useMovingStore()
const rigs = useRigStore()

const kind = ref<ControlKind>('fader')
const [rows, columns, pattern] = [ref(1), ref(8), ref('')]
const side = ref<'right' | 'below'>('below')
const isPressed = computed(() => ['button', 'pad', 'footswitch'].includes(kind.value))

const refusal = computed(() => rowsRefusal(rows.value, columns.value))
const isDrawing = computed(() => moving.job === 'draw' && moving.controller?.id === controller.id)
const label = computed(() => `Draw ${countWords(kind.value, rows.value * columns.value)}`)

function begin(): void {
  if (!rigs.rig || refusal.value !== null) return
  const { surface } = modelOf(rigs.rig, controller)
  // Right of or below what was drawn last, else of everything.
  const last = surface.controls.filter(({ id }) => moving.walk?.steps.some((each) => each.id === id))
  const plan = { ...usualPlan(kind.value), rows: rows.value, columns: columns.value }
  const at = placeFor(surface, isDrawing.value ? last : [], side.value)
  const { controls, block } = layOut(surface, plan, at)
  const names = namesByPattern(pattern.value, controls.length)
  moving.begin(
    'draw',
    where,
    controller.id,
    controls.map((control, index) => ({ ...control, label: names[index] ?? control.label })),
    block,
  )
  isChoosing.value = false
  void nextTick(() => now.value?.$el.scrollIntoView({ block: 'nearest' }))
}
const now = useTemplateRef('now')
/** What comes next is chosen when all is done, or when the player wants something else. */
const isChoosing = ref(false)
const isFormShown = computed(() => !isDrawing.value || moving.next === null || isChoosing.value)

/** What was drawn, the last one first. */
const drawn = computed(() =>
  moving.drawn
    .toReversed()
    .flatMap((id): Control[] => moving.model?.surface.controls.filter((each) => each.id === id) ?? [])
    .map((control) => ({
      id: control.id,
      name: controlName(control),
      known: (moving.known.get(control.id) ?? []).map(knownWords),
    })),
)
</script>

<template>
  <div data-testid="moving-draw">
    <MovingNow v-if="isDrawing" ref="now" class="pb-3">
      <div class="flex flex-wrap gap-1.5 pt-1.5 empty:hidden">
        <UiButton v-if="!isFormShown" data-testid="something-else" @click="isChoosing = true"
          >Something else</UiButton
        >
        <UiButton v-if="moving.drawn.length > 0" data-testid="take-back" @click="moving.takeBack()"
          ><Undo2 :size="13" />Take the last one back</UiButton
        >
      </div>
      <template #silent>
        <UiButton
          v-if="moving.next"
          class="mt-1"
          data-testid="draw-silent"
          @click="moving.addSilent(moving.next)"
          >Draw it as one that sends nothing</UiButton
        >
      </template>
    </MovingNow>
    <p v-else class="pb-2">
      Move the controls of the hardware one after the other: each appears in the next place, with what it
      sends. A touch, a push or a second axis becomes part of the same control.
    </p>
    <form
      v-if="isFormShown"
      class="border-line grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5"
      :class="isDrawing && 'border-t pt-2 pb-3'"
      :aria-label="isDrawing ? 'What comes next' : 'What is drawn'"
      @submit.prevent="begin"
    >
      <label for="moving-kind" class="text-soft text-xs">Kind</label>
      <select id="moving-kind" v-model="kind" class="bg-raised border-line h-7 w-44 rounded-md border px-1.5">
        <option v-for="each in CONTROL_KINDS" :key="each" :value="each">{{ KIND_FACTS[each].plural }}</option>
      </select>
      <label for="moving-rows" class="text-soft text-xs">Rows, columns</label>
      <span class="flex items-center gap-2">
        <NumberInput id="moving-rows" v-model="rows" /><span class="text-soft">×</span>
        <NumberInput v-model="columns" aria-label="Columns" data-testid="moving-columns" />
      </span>
      <label for="moving-names" class="text-soft text-xs">Names</label>
      <input
        id="moving-names"
        v-model="pattern"
        class="bg-raised border-line h-7 w-44 rounded-md border px-2"
        :placeholder="`${KIND_FACTS[kind].name} {1}`"
      />
      <span class="text-soft text-xs">Where</span>
      <span class="flex gap-1.5">
        <ChipToggle :is-on="side === 'right'" @click="side = 'right'">right of the last ones</ChipToggle>
        <ChipToggle :is-on="side === 'below'" @click="side = 'below'">below</ChipToggle>
      </span>
      <template v-if="isPressed">
        <span class="text-soft text-xs">Keys</span>
        <span>
          <ChipToggle
            :is-on="moving.takesKeys"
            data-testid="takes-keys"
            @click="moving.takesKeys = !moving.takesKeys"
            >single keys of a keyboard count too</ChipToggle
          >
        </span>
      </template>
      <span />
      <span>
        <UiButton
          type="submit"
          :look="isDrawing ? 'quiet' : 'strong'"
          :disabled="refusal !== null || !rigs.canEdit"
          data-testid="begin-drawing"
          >{{ label }}</UiButton
        >
        <p v-if="refusal" class="text-conflict mt-1 text-xs font-medium" role="alert">{{ refusal }}</p>
      </span>
    </form>
    <p v-if="!isDrawing" class="text-soft pt-2 text-xs">
      Everything that comes in by its port is taken as {{ controller.name }}. Two pieces of hardware on one
      port cannot be told apart: plug the other one out.
    </p>
    <ol
      v-if="isDrawing && drawn.length > 0"
      class="border-line border-t pt-1"
      aria-label="What was drawn, the last one first"
      data-testid="moving-drawn"
    >
      <li v-for="control in drawn" :key="control.id" class="border-hair border-b py-1">
        <span class="font-bold">{{ control.name }}</span>
        <MovingKnown v-for="each in control.known" :key="each.gesture" :known="each" />
      </li>
    </ol>
  </div>
</template>
