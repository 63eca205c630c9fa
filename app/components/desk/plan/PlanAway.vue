<script setup lang="ts">
import { CHANNELS } from '#core/midi'

/** What to move away from: numbers of a kind, on a channel or on all; or everything on a channel. */
const plans = usePlanStore()

type Away = typeof plans.away
const set = (change: Partial<Away>): void => {
  plans.away = { ...plans.away, ...change }
}
function setMessage(event: Event): void {
  const message = (event.target as HTMLSelectElement).value as Away['message']
  set(message === 'all' ? { message, channel: plans.away.channel ?? 1 } : { message })
}
const setNumber = (end: 'low' | 'high', event: Event): void => {
  const number = Math.round(Number((event.target as HTMLInputElement).value)) || 0
  set({ [end]: Math.min(127, Math.max(0, number)) })
}
const isAll = computed(() => plans.away.message === 'all')
const FIELD = 'bg-raised border-line tag h-7 rounded-md border px-1.5'
</script>

<template>
  <div class="flex items-center gap-1.5">
    <span class="w-20 shrink-0">away from</span>
    <select
      :class="FIELD"
      aria-label="What to move"
      data-testid="away-kind"
      :value="plans.away.message"
      @change="setMessage"
    >
      <option value="cc">CC</option>
      <option value="note">notes</option>
      <option value="all">everything</option>
    </select>
    <template v-if="!isAll">
      <input
        :class="FIELD"
        class="w-12"
        aria-label="From"
        :value="plans.away.low"
        @change="setNumber('low', $event)"
      />
      –
      <input
        :class="FIELD"
        class="w-12"
        aria-label="To"
        :value="plans.away.high"
        @change="setNumber('high', $event)"
      />
    </template>
  </div>
  <div class="flex items-center gap-1.5">
    <span class="w-20 shrink-0">on</span>
    <select
      :class="FIELD"
      aria-label="Channel"
      data-testid="away-channel"
      :value="plans.away.channel ?? ''"
      @change="set({ channel: Number(($event.target as HTMLSelectElement).value) || null })"
    >
      <option v-if="!isAll" value="">every channel</option>
      <option v-for="channel in CHANNELS" :key="channel" :value="channel">channel {{ channel }}</option>
    </select>
  </div>
  <p v-if="isAll" class="text-soft pl-[5.4rem]">
    Pitches, bend, pressure and programs come along and keep their numbers. What is pinned stays.
  </p>
</template>
