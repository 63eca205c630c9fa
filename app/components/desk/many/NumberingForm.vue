<script setup lang="ts">
import {
  fitsNumber,
  numberBounds,
  numbersFor,
  SCALES,
  withNumber,
  type Message,
  type Numbering,
  type Programmed,
  type ScaleName,
} from '#core/rig'

const { programmed } = defineProps<{ programmed: readonly Programmed[] }>()
const emit = defineEmits<{ change: [messages: readonly Message[]] }>()

const KINDS = [
  { id: 'run', name: 'upwards' },
  { id: 'same', name: 'all the same' },
  { id: 'rows', name: 'row by row' },
  { id: 'grid', name: 'grid of notes' },
  { id: 'scale', name: 'scale' },
] as const
type KindId = (typeof KINDS)[number]['id']

const kind = ref<KindId>('run')
const from = ref(20)
const step = ref(1)
const rowStep = ref(16)
const columnStep = ref(1)
const gridRowStep = ref(5)
const scale = ref<ScaleName>('minor pentatonic')
const scaleNames = Object.keys(SCALES) as ScaleName[]

const numbering = computed<Numbering>(() => {
  switch (kind.value) {
    case 'same':
      return { kind: 'same', number: from.value }
    case 'run':
      return { kind: 'run', from: from.value, step: step.value }
    case 'rows':
      return { kind: 'rows', from: from.value, rowStep: rowStep.value }
    case 'grid':
      return { kind: 'grid', from: from.value, columnStep: columnStep.value, rowStep: gridRowStep.value }
    default:
      return { kind: 'scale', from: from.value, scale: scale.value }
  }
})
const numbered = computed(() => {
  const controls = [...new Map(programmed.map(({ control }) => [control.id, control])).values()]
  return numbersFor(controls, numbering.value, { low: 0, high: 16_383 })
})

/** Each message with its new number; those that cannot carry it stay, and are counted. */
const result = computed(() => {
  let left = 0
  const messages = programmed.flatMap(({ assignment, control }): Message[] => {
    const [message] = assignment.messages
    if (!message) return []
    const number = numbered.value.numbers.get(control.id)
    if (numberBounds(message.kind) === null) return [message]
    if (number === undefined || !fitsNumber(message.kind, number)) {
      left++
      return [message]
    }
    return [withNumber(message, number)]
  })
  return { messages, left }
})
const canApply = computed(() => Number.isInteger(from.value) && result.value.left < programmed.length)
</script>

<template>
  <form
    class="border-line grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5 border-t pt-3"
    data-testid="numbering"
    @submit.prevent="canApply && emit('change', result.messages)"
  >
    <label for="numbering-kind" class="text-soft text-xs">Numbers</label>
    <select id="numbering-kind" v-model="kind" class="bg-raised border-line h-7 rounded-md border px-1.5">
      <option v-for="each in KINDS" :key="each.id" :value="each.id">{{ each.name }}</option>
    </select>
    <label for="numbering-from" class="text-soft text-xs">{{ kind === 'same' ? 'Number' : 'From' }}</label>
    <span class="flex items-center gap-2">
      <NumberInput id="numbering-from" v-model="from" />
      <template v-if="kind === 'run'">
        <label for="numbering-step" class="text-soft text-xs">by</label
        ><NumberInput id="numbering-step" v-model="step" />
      </template>
      <template v-else-if="kind === 'rows'">
        <label for="numbering-row" class="text-soft text-xs">next row +</label
        ><NumberInput id="numbering-row" v-model="rowStep" />
      </template>
      <template v-else-if="kind === 'grid'">
        <label for="numbering-column" class="text-soft text-xs">right +</label
        ><NumberInput id="numbering-column" v-model="columnStep" />
        <label for="numbering-up" class="text-soft text-xs">up +</label
        ><NumberInput id="numbering-up" v-model="gridRowStep" />
      </template>
      <select
        v-else-if="kind === 'scale'"
        v-model="scale"
        aria-label="Scale"
        class="bg-raised border-line h-7 rounded-md border px-1.5"
      >
        <option v-for="name in scaleNames" :key="name" :value="name">{{ name }}</option>
      </select>
    </span>
    <span />
    <span class="flex items-center gap-2">
      <UiButton type="submit" look="strong" :disabled="!canApply">Give numbers</UiButton>
      <span v-if="result.left > 0" class="text-advice text-xs"
        >{{ result.left }} cannot take theirs and stay as they are</span
      >
    </span>
  </form>
</template>
