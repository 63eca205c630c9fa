<script setup lang="ts">
import { X } from '@lucide/vue'

/** On the Desk: draw and learn a controller by moving it. */
const desk = useDeskStore()
const tabs = [
  { id: 'draw-by-moving' as const, name: 'Draw' },
  { id: 'learn-by-moving' as const, name: 'Learn' },
]
const tab = computed({
  get: () => (desk.panel === 'learn-by-moving' ? desk.panel : 'draw-by-moving'),
  set: (next) => (desk.panel = next),
})
</script>

<template>
  <div v-if="desk.controller" class="px-5 py-4" data-testid="moving-panel">
    <header class="flex items-start justify-between">
      <h2 class="text-lg font-bold">{{ desk.controller.name }} by moving it</h2>
      <UiButton look="plain" label="Leave" @click="desk.panel = 'selection'"><X :size="15" /></UiButton>
    </header>
    <TabStrip
      v-model="tab"
      :tabs="tabs"
      class="mt-1 mb-3"
      label="What is done by moving"
      attribute="data-moving"
      is-small
    />
    <MovingDraw v-if="tab === 'draw-by-moving'" :controller="desk.controller" where="desk" />
    <MovingLearn v-else :controller="desk.controller" where="desk" :selected="desk.selectedIds" />
  </div>
</template>
