<script setup lang="ts">
import { BookOpen, MonitorPlay } from '@lucide/vue'
import { BOOK } from '~/stores/sheets'

/** The sheets of the rig under their headings, and what is found in them. */
const sheets = useSheetsStore()
const isSearching = computed(() => sheets.search.trim() !== '')
const isCurrent = (id: string): boolean => sheets.current?.id === id && !sheets.isBook
let waiting: ReturnType<typeof setTimeout> | undefined
watch(
  () => sheets.search,
  () => {
    clearTimeout(waiting)
    waiting = setTimeout(() => void sheets.look(), 120)
  },
)
onBeforeUnmount(() => clearTimeout(waiting))
</script>

<template>
  <nav class="border-line flex w-60 shrink-0 flex-col border-r" aria-label="Sheets">
    <div class="border-line border-b p-3">
      <input
        v-model="sheets.search"
        type="search"
        class="bg-raised border-line h-7 w-full rounded-md border px-2 text-sm"
        placeholder="Search all sheets"
        aria-label="Search all sheets"
        data-testid="sheet-search"
      />
    </div>
    <SheetHits v-if="isSearching" />
    <div v-else class="min-h-0 flex-1 overflow-y-auto p-3">
      <button
        type="button"
        class="flex w-full items-center gap-2 rounded-md border px-2 py-1 text-left"
        :class="
          sheets.isBook
            ? 'bg-raised border-line font-bold'
            : 'hover:border-line border-transparent font-medium'
        "
        :aria-current="sheets.isBook"
        data-sheet="book"
        @click="sheets.choose(BOOK)"
      >
        <BookOpen :size="14" aria-hidden="true" />The book
      </button>
      <button
        type="button"
        class="hover:border-line mb-3 flex w-full items-center gap-2 rounded-md border border-transparent px-2 py-1 text-left font-medium"
        data-sheet="living"
        @click="navigateTo('/living')"
      >
        <MonitorPlay :size="14" aria-hidden="true" />The living card
      </button>
      <section v-for="group in sheets.groups" :key="group.heading" class="mb-3">
        <h2 class="text-soft px-2 pb-0.5 text-xs font-medium">{{ group.heading }}</h2>
        <ul>
          <li v-for="each in group.sheets" :key="each.id">
            <button
              type="button"
              class="w-full truncate rounded-md border px-2 py-0.5 text-left"
              :class="
                isCurrent(each.id)
                  ? 'bg-raised border-line font-bold'
                  : 'hover:border-line border-transparent font-medium'
              "
              :aria-current="isCurrent(each.id)"
              :data-sheet="each.id"
              @click="sheets.choose(each.id)"
            >
              {{ each.name }}
            </button>
          </li>
        </ul>
      </section>
    </div>
  </nav>
</template>
