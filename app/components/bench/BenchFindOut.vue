<script setup lang="ts">
import { splitGestureKey } from '#core/rig'

/** Find out what one control is, draw a controller by moving it, or learn what its controls send. */
const bench = useBenchStore()
const moving = useMovingStore()
type Tab = 'one' | 'draw' | 'learn'
const tab = ref<Tab>(moving.job ?? 'one')
const tabs = [
  { id: 'one' as const, name: 'One control' },
  { id: 'draw' as const, name: 'Draw by moving' },
  { id: 'learn' as const, name: 'Learn by moving' },
]
const followed = computed(() => (bench.gesture === null ? [] : [splitGestureKey(bench.gesture).control]))
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <TabStrip
      v-model="tab"
      :tabs="tabs"
      class="shrink-0 px-4 pb-2"
      label="What is done by moving"
      attribute="data-moving"
      is-small
    />
    <BenchListen v-if="tab === 'one'" />
    <div v-else-if="bench.controller" class="min-h-0 flex-1 overflow-y-auto px-5 pb-4">
      <MovingDraw v-if="tab === 'draw'" :controller="bench.controller" where="bench" />
      <MovingLearn v-else :controller="bench.controller" where="bench" :selected="followed" />
    </div>
  </div>
</template>
