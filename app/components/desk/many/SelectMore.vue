<script setup lang="ts">
import { toast } from '~/lib/toast'

/** Widen or turn round a selection: its blocks, rows, columns, all of its kinds, everything else. */
const { blocks, kinds, kindWords, wholeBlock, wholeRow, wholeColumn, allOfKind, invert, allCalled } =
  useWiderSelection()

const called = ref('')
function selectCalled(): void {
  const words = called.value.trim()
  if (words !== '' && !allCalled(words)) toast(`No control here is called “${words}”.`)
}
</script>

<template>
  <div class="-ml-2.5 flex flex-wrap">
    <UiButton v-if="blocks.size > 0" look="plain" data-testid="whole-block" @click="wholeBlock"
      >Block</UiButton
    >
    <UiButton v-if="kinds.size > 0" look="plain" @click="allOfKind">All {{ kindWords }}</UiButton>
    <template v-if="kinds.size > 0">
      <UiButton look="plain" data-testid="whole-row" @click="wholeRow">Row</UiButton>
      <UiButton look="plain" data-testid="whole-column" @click="wholeColumn">Column</UiButton>
    </template>
    <UiButton v-if="kinds.size > 0" look="plain" @click="invert">Invert</UiButton>
    <form class="ml-2.5 flex items-center" @submit.prevent="selectCalled">
      <input
        v-model="called"
        class="bg-raised border-line h-6.5 w-28 rounded-md border px-2 text-xs"
        placeholder="All called …"
        aria-label="Select all controls with this in their name"
        data-testid="select-called"
      />
    </form>
  </div>
</template>
