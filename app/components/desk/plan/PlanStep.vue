<script setup lang="ts">
/** The number of a step on the way from the rig as it is to the plan. */
const { number } = defineProps<{ number: number }>()
</script>

<template>
  <span class="bg-ink text-sheet tag text-2xs! grid size-4 shrink-0 place-items-center rounded-full">{{
    number
  }}</span>
</template>
