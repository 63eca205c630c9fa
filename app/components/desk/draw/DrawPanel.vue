<script setup lang="ts">
import { X } from '@lucide/vue'

const desk = useDeskStore()
</script>

<template>
  <div class="px-5 py-4" data-testid="draw-panel">
    <header class="flex items-start justify-between">
      <div>
        <h2 class="text-lg font-bold">Draw {{ desk.controller?.name }}</h2>
        <p class="text-soft text-xs">
          Drag controls, or Alt with arrows (with Shift, further). Shift-click or draw a frame to select
          several.
        </p>
      </div>
      <UiButton look="plain" label="Leave drawing" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <UiButton class="mt-2" data-testid="draw-by-moving" @click="desk.panel = 'draw-by-moving'"
      >Draw by moving the hardware</UiButton
    >
    <DrawSelected v-if="desk.selected.length > 0" class="mt-3" />
    <DrawAdd class="mt-3" />
    <DrawSurfaceSize class="mt-3" />
  </div>
</template>
