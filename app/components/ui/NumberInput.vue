<script setup lang="ts">
const model = defineModel<number>({ required: true })
const { id = undefined, step = 1 } = defineProps<{ id?: string; step?: number }>()
</script>

<template>
  <input
    :id="id"
    v-model.number="model"
    type="number"
    :step="step"
    class="bg-raised border-line tag h-7 w-16 rounded-md border px-1.5"
  />
</template>
