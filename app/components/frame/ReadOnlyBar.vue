<script setup lang="ts">
import { CopyPlus } from '@lucide/vue'

const rigs = useRigStore()
const shelf = useShelfStore()
const TEXTS = {
  'open-elsewhere':
    'This rig is open in another tab. You can read it here; it follows what is done there, and you can edit it once that tab is closed.',
  'taken-over':
    'Another tab has taken this rig over. You can go on reading it here; it follows what is done there.',
  deleted: 'This rig was deleted in another tab. What you see here can be kept as a new rig.',
} as const
const text = computed(() => {
  if (rigs.readReason === null) return ''
  return rigs.isLeftOver
    ? 'This tab no longer has the right to edit this rig, and its last edits were not kept. Keep what you see as a new rig, so that nothing is lost.'
    : TEXTS[rigs.readReason]
})
</script>

<template>
  <div class="bg-advice-soft border-line flex items-center gap-3 border-b px-4 py-1.5" role="status">
    <SeverityMark :severity="rigs.isLeftOver ? 'error' : 'warning'" class="mt-0!" />
    <span>{{ text }}</span>
    <UiButton
      v-if="rigs.isLeftOver || rigs.readReason === 'deleted'"
      class="ml-auto"
      look="strong"
      @click="shelf.keepAsNew()"
      ><CopyPlus :size="14" />Keep as a new rig</UiButton
    >
    <UiButton v-else class="ml-auto" look="strong" @click="rigs.takeOver()">Take over and edit here</UiButton>
  </div>
</template>
