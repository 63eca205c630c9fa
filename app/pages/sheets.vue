<script setup lang="ts">
const rigs = useRigStore()
const shelf = useShelfStore()
const sheets = useSheetsStore()
const edit = useEdit()

watch(
  [() => rigs.revision, () => sheets.current?.id, () => sheets.chosen, () => sheets.isBook],
  () => void sheets.refresh(),
  { immediate: true },
)
const tickedCount = computed(() => rigs.rig?.checklist.filter(({ done }) => done).length ?? 0)
const clearTicks = (): boolean => edit('Take back all ticks', [{ type: 'steps-clear' }])
</script>

<template>
  <div v-if="rigs.rig" class="flex h-full">
    <SheetList />
    <div class="flex min-w-0 flex-1 flex-col">
      <SheetBar>
        <UiButton
          v-if="sheets.current?.kind === 'checklist' && !sheets.isBook && tickedCount > 0"
          data-testid="clear-ticks"
          @click="clearTicks()"
          >Take back all ticks</UiButton
        >
      </SheetBar>
      <p
        v-if="sheets.failure"
        class="bg-conflict-soft text-conflict flex items-center gap-3 px-6 py-2"
        role="alert"
        data-testid="sheet-failure"
      >
        {{ sheets.failure }}
        <UiButton class="ml-auto" @click="(sheets.stop(), sheets.refresh())">Try again</UiButton>
      </p>
      <div class="min-h-0 flex-1 overflow-y-auto p-6" :aria-busy="sheets.isMaking">
        <BookPanel v-if="sheets.isBook" />
        <SheetPreview v-else-if="sheets.sheet" :sheet="sheets.sheet" />
        <p v-else-if="sheets.isMaking" class="text-soft">Making the sheet …</p>
      </div>
    </div>
  </div>
  <EmptyState v-else-if="!shelf.isBooting" title="Nothing to write down yet">
    A sheet is a document made from the rig. No rig is open.
    <template #actions>
      <UiButton look="strong" @click="(shelf.openDemo('as-performed'), navigateTo('/sheets'))"
        >Open the demo</UiButton
      >
    </template>
  </EmptyState>
</template>
