<script setup lang="ts">
/** Proving the rig: rehearse it, teach its destinations, check the line, and store its templates. */
const prove = useProve()
const rehearsal = useRehearsalStore()
const teaching = useTeachingStore()
const line = useLineCheckStore()
const tabs = computed(() => [
  { id: 'rehearse' as const, name: 'Rehearse', hint: rehearsal.isBusy ? 'on' : undefined },
  { id: 'teach' as const, name: 'Teach', hint: teaching.isOn ? 'on' : undefined },
  { id: 'line' as const, name: 'Line check', hint: line.isOn ? 'on' : undefined },
  { id: 'slots' as const, name: 'Slots' },
  { id: 'recipes' as const, name: 'Recipes' },
])
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col" data-testid="prove">
    <TabStrip
      v-model="prove"
      :tabs="tabs"
      class="shrink-0 px-4 pb-2"
      label="How the rig is proven"
      attribute="data-prove"
      is-small
    />
    <div class="min-h-0 flex-1 overflow-y-auto px-5 pb-4">
      <ProveRehearse v-if="prove === 'rehearse'" />
      <ProveTeach v-else-if="prove === 'teach'" />
      <ProveLine v-else-if="prove === 'line'" />
      <ProveSlots v-else-if="prove === 'slots'" />
      <ProveRecipes v-else />
    </div>
  </div>
</template>
