<script setup lang="ts">
const rigs = useRigStore()
const shelf = useShelfStore()
const history = useHistoryStore()

watch(
  () => rigs.revision,
  () => {
    void history.tellSteps()
    // A sitting that ended, or another tab, may have added versions.
    void history.refresh()
    if (history.point) void history.compare()
  },
  { immediate: true },
)
const route = useRoute()
watch(
  () => route.hash,
  // Whoever is sent to the backup finds it, whatever was compared.
  (hash) => void (hash === '#backup' && history.point && history.compareWith(null)),
  { immediate: true },
)
onBeforeUnmount(() => history.close())
const hasPast = computed(() => rigs.past.length + history.versions.length > 0)
</script>

<template>
  <div v-if="rigs.rig" class="flex h-full">
    <HistoryLine />
    <div class="flex min-w-0 flex-1 flex-col">
      <HistoryBar />
      <p
        v-if="history.failure"
        class="bg-conflict-soft text-conflict px-6 py-2"
        role="alert"
        data-testid="history-failure"
      >
        {{ history.failure }}
      </p>
      <HistorySurface v-if="history.report && history.report.count > 0" />
      <div class="min-h-0 flex-1 overflow-y-auto px-6 py-4" :aria-busy="history.isBusy">
        <BringBackOffer />
        <ChangeReport v-if="history.report" :report="history.report" />
        <p v-else-if="history.isBusy" class="text-soft" role="status">Comparing …</p>
        <div v-else class="text-soft max-w-2xl space-y-4">
          <p v-if="hasPast">
            Choose an edit on the left to see what it and all after it did, or a version to see what has
            changed since, and bring back any of it. A name keeps a point for good. Without names, the last
            eight sittings are kept, and before them one version a day and one a month.
          </p>
          <p v-else>Give this point a name to come back to it, or compare the rig with another.</p>
          <BackupPanel />
        </div>
      </div>
    </div>
  </div>
  <div v-else-if="!shelf.isBooting" class="h-full overflow-y-auto">
    <EmptyState title="No history yet">
      Every edit of a rig is kept here, and versions that you name. No rig is open.
      <template #actions>
        <UiButton look="strong" @click="(shelf.openDemo('as-performed'), navigateTo('/history'))"
          >Open the demo</UiButton
        >
      </template>
    </EmptyState>
    <BackupPanel class="text-soft mx-auto max-w-2xl px-6 pb-8" />
  </div>
</template>
