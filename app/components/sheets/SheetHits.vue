<script setup lang="ts">
/** The lines of all sheets in which everything that is looked for stands. */
const sheets = useSheetsStore()
const words = computed(() => {
  const { count, hits } = sheets.found
  if (count === 0) return 'Nothing found.'
  const lines = count === 1 ? '1 line' : `${count} lines`
  return hits.length < count ? `${lines}; the first ${hits.length}:` : `${lines}:`
})
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto p-3" data-testid="sheet-hits">
    <p class="text-soft px-2 pb-1 text-xs" aria-live="polite">{{ words }}</p>
    <ul>
      <li v-for="hit in sheets.found.hits" :key="`${hit.sheet} ${hit.section} ${hit.line}`">
        <button
          type="button"
          class="hover:bg-hair w-full rounded-md px-2 py-1 text-left text-xs"
          data-testid="sheet-hit"
          @click="sheets.goTo(hit.sheet, hit.section, hit.line)"
        >
          <span class="line-clamp-2">{{ hit.text }}</span>
          <span class="text-soft block truncate">{{ hit.sheetName }}, {{ hit.heading }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>
