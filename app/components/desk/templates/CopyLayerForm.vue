<script setup lang="ts">
import { copyLayer, type CopyRule, type Stack } from '#core/rig'

const { stack } = defineProps<{ stack: Stack }>()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const source = computed(
  () => stack.layers.find(({ id }) => id === desk.shown?.layers[stack.id]) ?? stack.layers[0] ?? null,
)
const kind = ref<CopyRule['kind']>('same')
const refusal = ref<string | null>(null)
const plus = ref(8)
const channel = ref(2)
const rule = computed<CopyRule>(() =>
  kind.value === 'numbers'
    ? { kind: 'numbers', plus: plus.value }
    : kind.value === 'channel'
      ? { kind: 'channel', channel: channel.value }
      : { kind: kind.value },
)
const isGood = computed(
  () =>
    kind.value === 'same' ||
    kind.value === 'free' ||
    Number.isInteger(kind.value === 'numbers' ? plus.value : channel.value),
)

function copy(): void {
  const { controller, template } = desk
  const { rig } = rigs
  if (!rig || !controller || !template || !source.value || !isGood.value) return
  const targets = stack.layers.map(({ id }) => id)
  const result = copyLayer(rig, controller, template, source.value.id, targets, rule.value)
  refusal.value = result.ok ? null : result.message
  if (result.ok) edit(`Copy ${source.value.name} to the other layers`, result.edits)
}
</script>

<template>
  <form class="flex flex-wrap items-center gap-1.5 text-xs" @submit.prevent="copy">
    <span class="text-soft">Copy {{ source?.name }} to the others,</span>
    <select
      v-model="kind"
      aria-label="Rule for copying"
      class="bg-raised border-line h-7 rounded-md border px-1.5"
    >
      <option value="same">the same</option>
      <option value="numbers">numbers further on by</option>
      <option value="channel">on channel</option>
      <option value="free">each at the next free run of numbers</option>
    </select>
    <NumberInput v-if="kind === 'numbers'" v-model="plus" aria-label="Further on by" />
    <NumberInput v-else-if="kind === 'channel'" v-model="channel" aria-label="Channel" />
    <UiButton type="submit" :disabled="!isGood">Copy</UiButton>
    <p v-if="refusal" role="alert" class="text-conflict w-full font-medium">{{ refusal }}</p>
  </form>
</template>
