<script setup lang="ts">
import { Pane, Splitpanes } from 'splitpanes'

const bench = useBenchStore()
const rigs = useRigStore()
const adding = useAddingStore()
</script>

<template>
  <div class="h-full">
    <div v-if="rigs.rig && bench.controller" class="flex h-full flex-col">
      <BenchBar />
      <Splitpanes horizontal class="min-h-0 flex-1" :dbl-click-splitter="false">
        <Pane :size="54" :min-size="25">
          <Splitpanes :dbl-click-splitter="false">
            <Pane :size="68" :min-size="40"><BenchSurface /></Pane>
            <Pane :size="32" :min-size="20"><WhatMoves /></Pane>
          </Splitpanes>
        </Pane>
        <Pane :size="46" :min-size="20"><TapeView /></Pane>
      </Splitpanes>
      <TraceFoot />
    </div>
    <EmptyState v-else title="Nothing to play yet">
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
