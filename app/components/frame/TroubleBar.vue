<script setup lang="ts">
import { Download } from '@lucide/vue'

const shelf = useShelfStore()
const rigs = useRigStore()
const { exportRig } = useRigFiles()
const text = computed(() =>
  rigs.keepState === 'failing'
    ? 'Your last edits are not kept in this browser yet. Deft Lattice goes on trying; export the rig to be safe. If the disk is full, make room on it, or empty the bin.'
    : (shelf.whyNowhere ?? shelf.failure),
)
</script>

<template>
  <div
    class="bg-conflict-soft text-conflict border-line flex items-center gap-3 border-b px-4 py-1.5"
    role="alert"
    data-testid="trouble"
  >
    <SeverityMark severity="error" class="mt-0!" />
    <span class="font-medium">{{ text }}</span>
    <UiButton v-if="rigs.rig" class="ml-auto" look="strong" @click="exportRig"
      ><Download :size="14" />Export</UiButton
    >
  </div>
</template>
