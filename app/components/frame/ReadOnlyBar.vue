<script setup lang="ts">
const rigs = useRigStore()
const text = computed(() =>
  rigs.readReason === 'taken-over'
    ? 'Another tab has taken this rig over. You can go on reading it here; it follows what is done there.'
    : 'This rig is open in another tab. You can read it here; it follows what is done there, and you can edit it once that tab is closed.',
)
</script>

<template>
  <div class="bg-advice-soft border-line flex items-center gap-3 border-b px-4 py-1.5" role="status">
    <SeverityMark severity="warning" class="mt-0!" />
    <span>{{ text }}</span>
    <UiButton class="ml-auto" look="strong" @click="rigs.takeOver()">Take over and edit here</UiButton>
  </div>
</template>
