<script setup lang="ts">
import { Maximize, Minus, Plus } from '@lucide/vue'

const zoom = defineModel<number>({ required: true })
const LIMIT = 6
const STEP = 1.25
const by = (factor: number): void => {
  zoom.value = Math.min(LIMIT, Math.max(1, zoom.value * factor))
}
</script>

<template>
  <div class="flex w-max gap-0.5 opacity-70 focus-within:opacity-100 hover:opacity-100">
    <UiButton look="plain" class="px-1.5!" label="Smaller" :disabled="zoom <= 1" @click="by(1 / STEP)"
      ><Minus :size="14"
    /></UiButton>
    <UiButton look="plain" class="px-1.5!" label="Fit the region" :disabled="zoom === 1" @click="zoom = 1"
      ><Maximize :size="13"
    /></UiButton>
    <UiButton look="plain" class="px-1.5!" label="Larger" :disabled="zoom >= LIMIT" @click="by(STEP)"
      ><Plus :size="14"
    /></UiButton>
  </div>
</template>
