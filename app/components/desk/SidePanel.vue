<script setup lang="ts">
const desk = useDeskStore()
</script>

<template>
  <aside
    class="bg-sheet h-full overflow-y-auto outline-none"
    aria-label="What is selected"
    tabindex="-1"
    data-testid="side-panel"
  >
    <LazyDrawPanel v-if="desk.panel === 'draw'" />
    <LazyTemplatesPanel v-else-if="desk.panel === 'templates'" />
    <LazyControllerPanel v-else-if="desk.panel === 'controller'" />
    <LazyTeachPanel v-else-if="desk.panel === 'teach'" />
    <LazyMovingPanel v-else-if="desk.panel === 'draw-by-moving' || desk.panel === 'learn-by-moving'" />
    <LazyManyPanel v-else-if="desk.selectedIds.length > 1" />
    <LazySentencePanel v-else-if="desk.control" />
    <EmptySelection v-else />
  </aside>
</template>
