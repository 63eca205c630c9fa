<script setup lang="ts">
const desk = useDeskStore()
</script>

<template>
  <aside class="bg-sheet h-full overflow-y-auto" aria-label="What is selected">
    <LazyFindingsList v-if="desk.panel === 'findings'" />
    <SentencePanel v-else-if="desk.control" />
    <EmptySelection v-else />
  </aside>
</template>
