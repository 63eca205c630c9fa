<script setup lang="ts">
import { X } from '@lucide/vue'

/** What was found, what is shared on purpose, and what was set aside. */
const analysis = useAnalysisStore()
const desk = useDeskStore()
const rigs = useRigStore()

const part = ref<'found' | 'shared' | 'aside'>('found')
const parts = computed(() => [
  { id: 'found' as const, name: 'Found', count: analysis.total },
  { id: 'shared' as const, name: 'Shared on purpose', count: rigs.rig?.accords.length ?? 0 },
  { id: 'aside' as const, name: 'Set aside', count: analysis.report?.asides.length ?? 0 },
])
</script>

<template>
  <div class="flex h-full flex-col" data-testid="findings">
    <header class="border-line flex items-start justify-between border-b pt-3 pr-2 pl-5">
      <h2 class="sr-only">Findings</h2>
      <div class="-ml-2 flex min-w-0 overflow-x-auto" role="tablist" aria-label="Findings">
        <button
          v-for="{ id, name, count } in parts"
          :key="id"
          type="button"
          role="tab"
          :aria-selected="part === id"
          :data-part="id"
          class="border-b-2 px-2 pb-1.5 whitespace-nowrap max-[1000px]:px-1.5"
          :class="part === id ? 'border-ink font-bold' : 'text-soft hover:text-ink border-transparent'"
          @click="part = id"
        >
          {{ name }} <span class="tag text-xs">{{ count }}</span>
        </button>
      </div>
      <UiButton look="plain" class="shrink-0" label="Close the findings" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <FoundList v-if="part === 'found'" class="min-h-0 flex-1" />
    <AccordList v-else-if="part === 'shared'" class="min-h-0 flex-1 overflow-y-auto" />
    <AsideList v-else class="min-h-0 flex-1 overflow-y-auto" />
  </div>
</template>
