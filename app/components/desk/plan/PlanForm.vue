<script setup lang="ts">
import { CHANNELS } from '#core/midi'
import { KINDS, POLICIES } from '~/lib/plan/words'
import type { PlanScope } from '~/stores/plan'

/** What is asked of a plan. */
const plans = usePlanStore()
const desk = useDeskStore()

const about = computed(() => KINDS.find(({ value }) => value === plans.kind)?.about ?? '')
const scopes = computed<Array<{ value: PlanScope; label: string }>>(() => [
  { value: 'rig', label: 'anything in the rig' },
  ...(desk.controller ? [{ value: 'controller' as const, label: `only ${desk.controller.name}` }] : []),
  ...(desk.selectedRefs.size > 0
    ? [{ value: 'selection' as const, label: `only what is selected (${desk.selectedRefs.size})` }]
    : []),
])
const room = computed({
  get: () => plans.roomFor ?? desk.controller?.id ?? '',
  set: (id) => {
    plans.roomFor = id
  },
})
const others = computed(() =>
  desk.controllers
    .filter(({ id }) => id !== desk.controller?.id)
    .map(({ id, name, inUse }) => ({ value: id, label: name, ...(inUse ? {} : { hint: 'put away' }) })),
)
const missing = computed({
  get: () => plans.missing ?? plans.absent ?? '',
  set: (id) => {
    plans.missing = id
  },
})
function toggleChannel(channel: number): void {
  const { channels } = plans
  plans.channels = channels.includes(channel)
    ? channels.filter((other) => other !== channel)
    : [...channels, channel].toSorted((a, b) => a - b)
}
</script>

<template>
  <form class="flex flex-col gap-2 text-xs" @submit.prevent="plans.run()">
    <div class="flex flex-wrap gap-0.5" role="radiogroup" aria-label="What to plan">
      <button
        v-for="each in KINDS"
        :key="each.value"
        type="button"
        role="radio"
        :aria-checked="plans.kind === each.value"
        :data-plan="each.value"
        class="h-7 rounded-md px-1.5 font-medium whitespace-nowrap"
        :class="plans.kind === each.value ? 'bg-ink text-sheet' : 'text-soft hover:text-ink'"
        @click="plans.kind = each.value"
      >
        {{ each.label }}
      </button>
    </div>
    <p class="text-soft">{{ about }}</p>
    <PlanSilent v-if="plans.kind === 'fill'" />
    <PlanAway v-if="plans.kind === 'avoid'" />
    <div v-if="plans.kind === 'make-room'" class="flex items-center gap-1.5">
      <span class="w-20 shrink-0">for</span>
      <UiSelect
        v-model="room"
        label="Make room for"
        :options="desk.controllers.map(({ id, name }) => ({ value: id, label: name }))"
      />
    </div>
    <div v-if="plans.kind === 'stand-in'" class="flex items-center gap-1.5">
      <span class="w-20 shrink-0 truncate font-bold">{{ desk.controller?.name }}</span>
      for
      <UiSelect v-model="missing" label="Stand in for" :options="others" />
    </div>
    <template v-if="plans.kind !== 'stand-in'">
      <div class="flex items-center gap-1.5">
        <span class="w-20 shrink-0">may change</span>
        <UiSelect v-model="plans.scope" label="What may change" :options="scopes" />
      </div>
      <div class="flex items-center gap-1.5">
        <span class="w-20 shrink-0">channels</span>
        <UiSelect v-model="plans.policy" label="Channels" :options="POLICIES" />
      </div>
      <div
        v-if="plans.policy === 'among'"
        class="flex flex-wrap gap-1 pl-[5.4rem]"
        aria-label="Channels to use"
      >
        <ChipToggle
          v-for="channel in CHANNELS"
          :key="channel"
          :is-on="plans.channels.includes(channel)"
          :aria-label="`Channel ${channel}`"
          @click="toggleChannel(channel)"
          >{{ channel }}</ChipToggle
        >
      </div>
      <label class="flex items-center gap-1.5">
        <input v-model="plans.shareLayers" type="checkbox" class="accent-ink" />layers that never show
        together may share
      </label>
      <HouseRules />
    </template>
  </form>
</template>
