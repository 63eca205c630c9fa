<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { isToastWanted } from '~/lib/toast'

usePreferencesStore()
const shelf = useShelfStore()
const rigs = useRigStore()
const adding = useAddingStore()
const pending = usePendingEditStore()
useShortcuts()
const isInTrouble = computed(
  () => shelf.failure !== null || shelf.whyNowhere !== null || rigs.keepState === 'failing',
)
useEventListener('beforeunload', (event) => {
  // The browser asks whether to leave, in its own words.
  if (rigs.keepState === 'failing' || rigs.isLeftOver) event.preventDefault()
})
/** What can wait is fetched when the page is surely at rest. */
const AT_REST_MS = 3000
onMounted(() => {
  void shelf.boot()
  setTimeout(() => void import('~/lib/at-rest').then(({ atRest }) => atRest(rigs)), AT_REST_MS)
})
</script>

<template>
  <div class="flex h-full flex-col">
    <TopBar />
    <LazyReadOnlyBar v-if="rigs.readReason !== null" />
    <LazyTroubleBar v-if="isInTrouble" />
    <LazyReadingLine
      v-if="shelf.incoming"
      class="border-line border-b px-4 py-1.5"
      :name="shelf.incoming.name"
      :progress="shelf.incoming.progress"
      @stop="shelf.incoming.stop()"
    />
    <main class="min-h-0 flex-1" :aria-busy="shelf.isBooting">
      <NuxtPage />
    </main>
    <LazyNewController v-if="rigs.rig && adding.what === 'controller'" />
    <LazyNewDestination v-if="rigs.rig && adding.what === 'destination'" />
    <LazyPendingEditBar v-if="pending.current" :key="pending.current.label" />
    <LazyRefusedFileDialog v-if="shelf.refused !== null" />
    <LazyToastHost v-if="isToastWanted" />
  </div>
</template>
