<script setup lang="ts">
const analysis = useAnalysisStore()
const desk = useDeskStore()
const route = useRoute()

const total = computed(() => analysis.total)
const worst = computed(() =>
  analysis.counts.error > 0 ? 'error' : analysis.counts.warning > 0 ? 'warning' : 'advice',
)
const title = computed(() => {
  const { error, warning, advice } = analysis.counts
  return `${error} errors, ${warning} warnings, ${advice} pieces of advice`
})

async function show(): Promise<void> {
  const isShowing = route.path === '/desk' && desk.panel === 'findings'
  desk.panel = isShowing ? 'selection' : 'findings'
  if (route.path !== '/desk') await navigateTo('/desk')
}
</script>

<template>
  <button
    v-if="analysis.report"
    type="button"
    class="flex h-7 items-center gap-2 rounded-md border px-2.5 font-bold whitespace-nowrap"
    :class="
      total === 0
        ? 'border-line text-soft'
        : worst === 'error'
          ? 'bg-conflict-soft text-conflict hover:border-conflict border-transparent'
          : 'bg-advice-soft text-advice hover:border-advice border-transparent'
    "
    :title="title"
    data-testid="findings-count"
    @click="show"
  >
    <SeverityMark v-if="total > 0" :severity="worst" class="mt-0!" />
    {{ total === 0 ? 'No findings' : total === 1 ? '1 finding' : `${total} findings` }}
  </button>
</template>
