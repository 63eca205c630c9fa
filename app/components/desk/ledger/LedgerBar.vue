<script setup lang="ts">
import type { LedgerFilter } from '~/composables/useLedgerLines'

const { count, columns, choices } = defineProps<{
  count: number
  columns: ReadonlyArray<{ id: string; name: string; isShown: boolean }>
  choices: Readonly<Record<'layer' | 'kind' | 'channel', readonly string[]>>
}>()
const emit = defineEmits<{ toggleColumn: [id: string]; read: [] }>()
const filter = defineModel<LedgerFilter>({ required: true })
const desk = useDeskStore()

const NARROW = [
  { column: 'layer', any: 'any layer' },
  { column: 'kind', any: 'any kind' },
  { column: 'channel', any: 'any channel' },
] as const
</script>

<template>
  <div
    class="border-line flex min-h-10 shrink-0 flex-wrap items-center gap-x-1.5 gap-y-1 border-b px-4 py-1 text-xs whitespace-nowrap"
  >
    <input
      v-model="filter.text"
      type="search"
      class="bg-raised border-line h-7 w-32 rounded-md border px-2 text-sm"
      placeholder="Search the lines"
      aria-label="Search the lines"
      data-testid="ledger-search"
    />
    <select
      v-model="filter.controller"
      aria-label="Controller"
      class="bg-raised border-line h-7 w-28 rounded-md border px-1"
    >
      <option value="">any controller</option>
      <option v-for="each in desk.controllers" :key="each.id" :value="each.id">{{ each.name }}</option>
    </select>
    <select
      v-for="{ column, any } in NARROW"
      :key="column"
      v-model="filter[column]"
      :aria-label="any"
      class="bg-raised border-line h-7 w-22 rounded-md border px-1"
      :data-filter="column"
    >
      <option value="">{{ any }}</option>
      <option v-for="value in choices[column]" :key="value" :value="value">{{ value }}</option>
    </select>
    <label class="flex items-center gap-1.5"
      ><input v-model="filter.withFindings" type="checkbox" class="accent-ink" />with findings</label
    >
    <label class="flex items-center gap-1.5"
      ><input v-model="filter.thatSend" type="checkbox" class="accent-ink" />that send</label
    >
    <button
      type="button"
      class="text-soft ml-auto font-medium underline decoration-dotted underline-offset-2"
      data-testid="read-table"
      @click="emit('read')"
    >
      Read a table
    </button>
    <details class="relative">
      <summary class="text-soft list-none font-medium underline decoration-dotted underline-offset-2">
        Columns
      </summary>
      <div class="bg-raised border-line shadow-float absolute right-0 z-20 mt-1 rounded-md border p-2">
        <label v-for="column in columns" :key="column.id" class="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            class="accent-ink"
            :checked="column.isShown"
            @change="emit('toggleColumn', column.id)"
          />{{ column.name }}
        </label>
      </div>
    </details>
    <span class="text-soft">{{ count }} {{ count === 1 ? 'line' : 'lines' }}</span>
  </div>
</template>
