<script setup lang="ts">
import type { Choice } from '#core/rig'

/** The incoming message that makes a choice. */
export type Trigger = Extract<Choice['by'], { kind: 'incoming' }>['trigger']
const trigger = defineModel<Trigger>({ required: true })

const KINDS: ReadonlyArray<{ kind: Trigger['kind']; name: string }> = [
  { kind: 'program', name: 'program' },
  { kind: 'cc', name: 'CC' },
  { kind: 'note', name: 'note' },
]
function setKind(kind: string): void {
  const { channel, number } = trigger.value
  trigger.value =
    kind === 'cc'
      ? { kind: 'cc', channel, number, value: 127 }
      : { kind: kind === 'note' ? 'note' : 'program', channel, number }
}
const set = (key: 'channel' | 'number' | 'value', value: number): void => {
  trigger.value = { ...trigger.value, [key]: value }
}
</script>

<template>
  <span class="flex flex-wrap items-center gap-1.5" data-testid="incoming">
    <select
      :value="trigger.kind"
      aria-label="Kind of the incoming message"
      class="bg-raised border-line h-7 rounded-md border px-1"
      @change="setKind(($event.target as HTMLSelectElement).value)"
    >
      <option v-for="each in KINDS" :key="each.kind" :value="each.kind">{{ each.name }}</option>
    </select>
    <NumberInput
      class="w-14!"
      :model-value="trigger.number"
      aria-label="Number, 0 to 127"
      @update:model-value="set('number', $event)"
    />
    <template v-if="trigger.kind === 'cc'"
      >at
      <NumberInput
        class="w-14!"
        :model-value="trigger.value"
        aria-label="Value, 0 to 127"
        @update:model-value="set('value', $event)"
      />
    </template>
    on channel
    <NumberInput
      class="w-12!"
      :model-value="trigger.channel"
      aria-label="Channel, 1 to 16"
      @update:model-value="set('channel', $event)"
    />
  </span>
</template>
