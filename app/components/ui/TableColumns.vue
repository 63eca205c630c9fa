<script setup lang="ts" generic="K extends string">
import type { Field, Matching, TableRow } from '#core/rig'

/** The first lines of a table that is read, and what is in which column. */
const { rows, fields } = defineProps<{ rows: readonly TableRow[]; fields: ReadonlyArray<Field<K>> }>()
const matching = defineModel<Matching<K>>({ required: true })

const SHOWN = 6
/** So many lines tell how many columns there are. */
const LOOKED_AT = 100
const preview = computed(() => rows.slice(0, SHOWN))
const columns = computed(() => Math.max(0, ...rows.slice(0, LOOKED_AT).map(({ cells }) => cells.length)))
const fieldAt = (column: number): string =>
  Object.entries(matching.value).find(([, at]) => at === column)?.[0] ?? ''
/** A field has one column: matched again, it leaves the one it had. */
function match(column: number, { target }: Event): void {
  const field = target instanceof HTMLSelectElement ? target.value : ''
  const next = Object.fromEntries(Object.entries(matching.value).filter(([, at]) => at !== column))
  matching.value = (field === '' ? next : { ...next, [field]: column }) as Matching<K>
}
</script>

<template>
  <div class="border-line w-max max-w-full overflow-x-auto rounded-md border">
    <table class="text-left">
      <thead>
        <tr>
          <th v-for="column in columns" :key="column" class="border-line border-b p-1 font-normal">
            <select
              class="bg-raised border-line h-7 rounded-md border px-1"
              :class="fieldAt(column - 1) === '' && 'text-soft'"
              :aria-label="`Column ${column}`"
              :data-column="column"
              :value="fieldAt(column - 1)"
              @change="match(column - 1, $event)"
            >
              <option value="">not read</option>
              <option v-for="field in fields" :key="field.id" :value="field.id">{{ field.name }}</option>
            </select>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in preview" :key="row.line">
          <td
            v-for="column in columns"
            :key="column"
            class="tag max-w-48 truncate px-2 py-0.5"
            :class="fieldAt(column - 1) === '' && 'text-soft'"
          >
            {{ row.cells[column - 1] }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
