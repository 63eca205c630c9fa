<script setup lang="ts">
import type { SheetDocument } from '#core/sheets'

const { sheet } = defineProps<{ sheet: SheetDocument }>()
</script>

<template>
  <article class="bg-raised border-line shadow-float mx-auto max-w-5xl border px-10 py-8" data-testid="sheet">
    <h1 class="text-2xl leading-8 font-bold">{{ sheet.title }}</h1>
    <p class="text-soft">{{ sheet.subtitle }}</p>
    <dl class="mt-3 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-0.5">
      <template v-for="fact in sheet.facts" :key="fact.label">
        <dt class="text-soft">{{ fact.label }}</dt>
        <dd>{{ fact.value }}</dd>
      </template>
    </dl>
    <section v-for="section in sheet.sections" :key="section.heading" class="mt-6">
      <h2 class="text-base font-bold">{{ section.heading }}</h2>
      <p v-if="section.note" class="text-soft">{{ section.note }}</p>
      <table v-if="section.table && section.table.rows.length > 0" class="mt-1 w-full border-collapse">
        <thead>
          <tr class="border-ink border-b">
            <th
              v-for="column in section.table.columns"
              :key="column.title"
              scope="col"
              class="py-1 pr-4 font-medium whitespace-nowrap"
              :class="column.align === 'right' ? 'w-px text-right' : 'text-left'"
            >
              {{ column.title }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in section.table.rows" :key="index" class="border-hair border-b">
            <td
              v-for="(cell, position) in row"
              :key="position"
              class="py-1 pr-4 align-baseline"
              :class="[
                cell.mono && 'tag',
                section.table.columns[position]?.align === 'right' && 'text-right',
              ]"
            >
              <span
                v-if="cell.swatch"
                class="border-line mr-1.5 inline-block size-3 rounded-full border align-[-1px]"
                :style="{ background: cell.swatch }"
              />{{ cell.text }}
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </article>
</template>
