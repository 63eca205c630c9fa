<script setup lang="ts">
import { isToastWanted } from '~/lib/toast'

usePreferencesStore()
const shelf = useShelfStore()
const rigs = useRigStore()
const pending = usePendingEditStore()
useShortcuts()
onMounted(() => void shelf.boot())
</script>

<template>
  <div class="flex h-full flex-col">
    <TopBar />
    <ReadOnlyBar v-if="rigs.readReason !== null" />
    <TroubleBar v-if="shelf.failure !== null || rigs.saveState === 'failed'" />
    <main class="min-h-0 flex-1">
      <NuxtPage />
    </main>
    <LazyPendingEditBar v-if="pending.current" :key="pending.current.label" />
    <LazyRefusedFileDialog v-if="shelf.refused !== null" />
    <LazyToastHost v-if="isToastWanted" />
  </div>
</template>
