<script setup lang="ts">
const { title } = defineProps<{ title: string }>()
</script>

<template>
  <div class="grid h-full place-items-center p-8">
    <div class="max-w-md text-center">
      <h2 class="text-lg font-bold">{{ title }}</h2>
      <div class="text-soft mt-2 text-base"><slot /></div>
      <div class="mt-5 flex flex-wrap justify-center gap-2"><slot name="actions" /></div>
    </div>
  </div>
</template>
