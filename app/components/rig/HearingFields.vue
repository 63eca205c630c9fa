<script setup lang="ts">
import type { Hearing } from '#core/rig'

/** What a destination tells apart: its channels and its ports. */
const { hearing, portCount } = defineProps<{ hearing: Hearing; portCount: number }>()
const emit = defineEmits<{ change: [hearing: Hearing] }>()

const only = computed(() => (hearing.channels.kind === 'only' ? hearing.channels.channels : []))
function setOnly(channels: number[]): void {
  if (channels.length > 0) emit('change', { ...hearing, channels: { kind: 'only', channels } })
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
    <ChannelChips v-if="hearing.channels.kind === 'only'" :channels="only" @change="setOnly" />
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
