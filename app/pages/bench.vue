<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes'

const bench = useBenchStore()
const rigs = useRigStore()
const shelf = useShelfStore()
const adding = useAddingStore()
const regions = useTemplateRef('regions')
onMounted(() => bench.start())
watch(
  () => rigs.id,
  () => bench.start(),
)
const [UPPER, SURFACE] = [54, 68]
const upper = ref(UPPER)
const surface = ref(SURFACE)
interface Resized {
  panes: ReadonlyArray<{ size: number }>
}
useSplitterNames(regions, () => [
  { label: 'Size of the surface', size: surface.value },
  { label: 'Height of the surface', size: upper.value },
])
</script>

<template>
  <div class="h-full">
    <div v-if="rigs.rig && bench.controller" ref="regions" class="flex h-full flex-col">
      <BenchBar />
      <div
        v-if="bench.failure !== null"
        class="border-conflict mx-4 mb-2 flex items-center gap-3 rounded-md border px-3 py-1.5"
        role="alert"
        data-testid="bench-failure"
      >
        <p class="min-w-0 flex-1">
          <span class="text-conflict font-bold">The Bench has stopped: nothing is played or heard.</span>
          Your rig is untouched. {{ bench.failure }}
        </p>
        <UiButton look="strong" @click="bench.restart()">Start the Bench again</UiButton>
      </div>
      <Splitpanes
        horizontal
        class="min-h-0 flex-1"
        :dbl-click-splitter="false"
        @resized="({ panes }: Resized) => (upper = panes[0]?.size ?? upper)"
      >
        <Pane :size="upper" :min-size="25">
          <Splitpanes
            :dbl-click-splitter="false"
            @resized="({ panes }: Resized) => (surface = panes[0]?.size ?? surface)"
          >
            <Pane :size="surface" :min-size="40"><BenchSurface /></Pane>
            <Pane :size="100 - surface" :min-size="20"><BenchSide /></Pane>
          </Splitpanes>
        </Pane>
        <Pane :size="100 - upper" :min-size="20"><TapeView /></Pane>
      </Splitpanes>
      <TraceFoot />
    </div>
    <EmptyState v-else-if="!shelf.isBooting" title="Nothing to play yet">
      A controller that is in use can be played here, with everything it moves.
      <template #actions>
        <UiButton v-if="rigs.rig" look="strong" @click="adding.what = 'controller'"
          >Add a controller</UiButton
        >
        <UiButton v-else look="strong" @click="navigateTo('/desk')">Go to the Desk</UiButton>
      </template>
    </EmptyState>
  </div>
</template>
