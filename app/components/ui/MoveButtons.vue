<script setup lang="ts">
import { ArrowDown, ArrowUp } from '@lucide/vue'

/** Move an item of a list one place up or down. */
const { index, count } = defineProps<{ index: number; count: number }>()
const emit = defineEmits<{ move: [to: number] }>()
</script>

<template>
  <UiButton
    look="plain"
    class="px-1!"
    label="Further up"
    :disabled="index === 0"
    @click="emit('move', index - 1)"
    ><ArrowUp :size="13"
  /></UiButton>
  <UiButton
    look="plain"
    class="px-1!"
    label="Further down"
    :disabled="index === count - 1"
    @click="emit('move', index + 1)"
    ><ArrowDown :size="13"
  /></UiButton>
</template>
