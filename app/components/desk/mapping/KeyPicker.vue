<script setup lang="ts">
import { isBlackKey, noteName, parseNote, type MiddleC } from '#core/midi'

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

interface DrawnKey {
  note: number
  x: number
  isBlack: boolean
}
const WHITE = 10
/** Keys from the lowest to the highest, white ones side by side and black ones between. */
const drawn = computed<DrawnKey[]>(() => {
  let whites = 0
  return Array.from({ length: high - low + 1 }, (_, index) => {
    const note = low + index
    return isBlackKey(note)
      ? { note, x: whites * WHITE - 3, isBlack: true }
      : { note, x: whites++ * WHITE, isBlack: false }
  }).sort((a, b) => Number(a.isBlack) - Number(b.isBlack))
})
const width = computed(() => Math.max(1, drawn.value.filter(({ isBlack }) => !isBlack).length) * WHITE)
const fillOf = ({ note, isBlack }: DrawnKey): string =>
  note === key.value ? 'var(--marker)' : isBlack ? 'var(--ink)' : 'var(--raised)'
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
      :viewBox="`0 0 ${width} 30`"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <rect
        v-for="each in drawn"
        :key="each.note"
        :x="each.x"
        y="0"
        :width="each.isBlack ? 6 : WHITE"
        :height="each.isBlack ? 18 : 30"
        :fill="fillOf(each)"
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
