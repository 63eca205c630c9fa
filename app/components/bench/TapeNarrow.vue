<script setup lang="ts">
import { CHANNELS, MESSAGE_KIND_NAME } from '#core/midi'
import { CABLE_KINDS } from '#core/rig'
import { EVERYTHING, narrowedBy, type Narrowing } from '~/lib/bench/narrow'

/** What of the tape is looked at. */
const narrowing = defineModel<Narrowing>({ required: true })
const bench = useBenchStore()
const rigs = useRigStore()
const field = useTemplateRef('text')
onMounted(() => field.value?.focus())
const ANY = ''
const any = { value: ANY, label: 'any' }
const named = (all: ReadonlyArray<{ id: string; name: string }>) => [
  any,
  ...all.map(({ id, name }) => ({ value: id, label: name })),
]
const fields = computed(() => [
  { key: 'controller' as const, label: 'Controller', options: named(bench.controllers) },
  { key: 'destination' as const, label: 'Destination', options: named(rigs.rig?.destinations ?? []) },
  {
    key: 'channel' as const,
    label: 'Channel',
    options: [any, ...CHANNELS.map((channel) => ({ value: String(channel), label: String(channel) }))],
  },
  {
    key: 'kind' as const,
    label: 'Kind',
    options: [any, ...CABLE_KINDS.map((kind) => ({ value: kind as string, label: MESSAGE_KIND_NAME[kind] }))],
  },
])
function set(key: 'controller' | 'destination' | 'channel' | 'kind', value: string): void {
  const next = value === ANY ? null : key === 'channel' ? Number(value) : value
  narrowing.value = { ...narrowing.value, [key]: next } as Narrowing
}
</script>

<template>
  <div class="border-line flex flex-wrap items-center gap-x-3 gap-y-1 border-t px-4 py-1.5 text-xs">
    <label class="flex items-center gap-1.5"
      ><span class="text-soft">Text</span>
      <input
        id="narrow-text"
        ref="text"
        class="bg-sheet border-line h-7 w-44 rounded-md border px-2"
        placeholder="a name, an address, a value"
        :value="narrowing.text"
        @input="narrowing = { ...narrowing, text: ($event.target as HTMLInputElement).value }"
    /></label>
    <label v-for="{ key, label, options } in fields" :key="key" class="flex items-center gap-1.5"
      ><span class="text-soft">{{ label }}</span>
      <select
        :id="`narrow-${key}`"
        class="bg-sheet border-line h-7 max-w-36 rounded-md border px-1.5"
        :value="narrowing[key] === null ? ANY : String(narrowing[key])"
        @change="set(key, ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="option in options" :key="option.value" :value="option.value">
          {{ option.label }}
        </option>
      </select></label
    >
    <UiButton :disabled="narrowedBy(narrowing) === 0" @click="narrowing = EVERYTHING"
      >Show everything</UiButton
    >
  </div>
</template>
