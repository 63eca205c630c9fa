<script setup lang="ts">
import type { Hearing } from '#core/rig'

/** What a destination tells apart: its channels and its ports. */
const { hearing, portCount } = defineProps<{ hearing: Hearing; portCount: number }>()
const emit = defineEmits<{ change: [hearing: Hearing] }>()

const only = computed(() => (hearing.channels.kind === 'only' ? hearing.channels.channels : []))
function toggle(channel: number): void {
  const next = only.value.includes(channel)
    ? only.value.filter((other) => other !== channel)
    : [...only.value, channel]
  if (next.length > 0)
    emit('change', { ...hearing, channels: { kind: 'only', channels: next.sort((a, b) => a - b) } })
}
</script>

<template>
  <div class="flex flex-col gap-1.5 text-xs">
    <span class="flex flex-wrap gap-1.5">
      <ChipToggle
        :is-on="hearing.channels.kind === 'apart'"
        @click="emit('change', { ...hearing, channels: { kind: 'apart' } })"
        >channels apart</ChipToggle
      >
      <ChipToggle
        :is-on="hearing.channels.kind === 'merged'"
        @click="emit('change', { ...hearing, channels: { kind: 'merged' } })"
        >all for one</ChipToggle
      >
      <ChipToggle
        :is-on="hearing.channels.kind === 'only'"
        @click="emit('change', { ...hearing, channels: { kind: 'only', channels: [1] } })"
        >only these</ChipToggle
      >
    </span>
    <span v-if="hearing.channels.kind === 'only'" class="flex flex-wrap gap-0.5">
      <button
        v-for="channel in 16"
        :key="channel"
        type="button"
        class="h-6 w-6.5 rounded border text-center"
        :class="only.includes(channel) ? 'bg-ink text-sheet border-ink' : 'border-line text-soft'"
        :aria-pressed="only.includes(channel)"
        :aria-label="`Channel ${channel}`"
        @click="toggle(channel)"
      >
        {{ channel }}
      </button>
    </span>
    <span v-if="portCount > 1" class="flex gap-1.5">
      <ChipToggle :is-on="hearing.ports === 'merged'" @click="emit('change', { ...hearing, ports: 'merged' })"
        >ports as one</ChipToggle
      >
      <ChipToggle :is-on="hearing.ports === 'apart'" @click="emit('change', { ...hearing, ports: 'apart' })"
        >ports apart</ChipToggle
      >
    </span>
  </div>
</template>
