<script setup lang="ts">
import { Maximize, Minus, Plus } from '@lucide/vue'
import { ZOOM_LIMIT, ZOOM_STEP } from '~/composables/useZoom'

const { zoom } = defineProps<{ zoom: number }>()
const emit = defineEmits<{ zoom: [to: number] }>()
</script>

<template>
  <div class="flex w-max gap-0.5 opacity-70 focus-within:opacity-100 hover:opacity-100">
    <UiButton
      look="plain"
      class="h-6! px-1.5!"
      label="Smaller"
      :disabled="zoom <= 1"
      @click="emit('zoom', zoom / ZOOM_STEP)"
      ><Minus :size="14"
    /></UiButton>
    <UiButton
      look="plain"
      class="h-6! px-1.5!"
      label="Fit the region"
      :disabled="zoom === 1"
      @click="emit('zoom', 1)"
      ><Maximize :size="13"
    /></UiButton>
    <UiButton
      look="plain"
      class="h-6! px-1.5!"
      label="Larger"
      :disabled="zoom >= ZOOM_LIMIT"
      @click="emit('zoom', zoom * ZOOM_STEP)"
      ><Plus :size="14"
    /></UiButton>
  </div>
</template>
