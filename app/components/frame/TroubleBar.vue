<script setup lang="ts">
import { Download } from '@lucide/vue'

const shelf = useShelfStore()
const rigs = useRigStore()
const { exportRig } = useRigFiles()
const text = computed(() =>
  rigs.saveState === 'failed'
    ? 'The last change could not be saved in this browser. Export the rig to a file, then reload.'
    : `This browser would not open its storage: ${shelf.failure}`,
)
</script>

<template>
  <div
    class="bg-conflict-soft text-conflict border-line flex items-center gap-3 border-b px-4 py-1.5"
    role="alert"
  >
    <SeverityMark severity="error" class="mt-0!" />
    <span class="font-medium">{{ text }}</span>
    <UiButton v-if="rigs.rig" class="ml-auto" look="strong" @click="exportRig"
      ><Download :size="14" />Export</UiButton
    >
  </div>
</template>
