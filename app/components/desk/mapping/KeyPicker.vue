<script setup lang="ts">
import { noteName, parseNote, type MiddleC } from '#core/midi'
import { keyAreas, type KeyArea } from '~/lib/keys'

/** One key of a keyboard, typed or struck on a drawn one; none is all of them. */
const { low, high, middleC } = defineProps<{ low: number; high: number; middleC: MiddleC }>()
const key = defineModel<number | null>({ required: true })
const id = useId()
const refusal = ref<string | null>(null)
const written = computed(() => (key.value === null ? '' : noteName(key.value, middleC)))

function type(event: Event): void {
  const input = event.target as HTMLInputElement
  const text = input.value.trim()
  const note = text === '' ? null : parseNote(text, middleC)
  const isThere = text === '' || (note !== null && note >= low && note <= high)
  refusal.value = isThere
    ? null
    : `Type a key from ${noteName(low, middleC)} to ${noteName(high, middleC)}, or its note number.`
  if (isThere) key.value = note
  else input.value = written.value
}
const strike = (note: number): void => {
  refusal.value = null
  key.value = note === key.value ? null : note
}

/** Black keys come last, to lie above. */
const drawn = computed(() => keyAreas(low, high).toSorted((a, b) => b.h - a.h))
const fillOf = ({ note, h }: KeyArea): string =>
  note === key.value ? 'var(--marker)' : h < 1 ? 'var(--ink)' : 'var(--raised)'
</script>

<template>
  <div data-testid="key-picker">
    <div class="flex items-center gap-2">
      <label :for="id" class="text-soft">Key</label>
      <input
        :id="id"
        class="bg-raised border-line tag h-7 w-20 rounded-md border px-1.5"
        placeholder="all keys"
        :value="written"
        autocomplete="off"
        @change="type"
        @keydown.enter.prevent="type"
      />
      <span class="text-soft text-xs">type it, or strike it below</span>
    </div>
    <p v-if="refusal" class="text-conflict mt-1 text-xs" role="alert">{{ refusal }}</p>
    <svg
      class="border-line mt-1.5 block h-9 w-full cursor-pointer rounded border"
      viewBox="0 0 100 1"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <rect
        v-for="each in drawn"
        :key="each.note"
        :x="each.x * 100"
        y="0"
        :width="each.w * 100"
        :height="each.h"
        :fill="fillOf(each)"
        vector-effect="non-scaling-stroke"
        stroke="var(--ink)"
        stroke-width="0.5"
        :data-key="each.note"
        @click="strike(each.note)"
      >
        <title>{{ noteName(each.note, middleC) }}</title>
      </rect>
    </svg>
  </div>
</template>
