<script setup lang="ts">
import type { SheetDocument } from '#core/sheets'

/** The document itself, as it is printed. */
const { sheet } = defineProps<{ sheet: SheetDocument }>()
const sheets = useSheetsStore()
const page = useTemplateRef('page')

// A line that was looked for is brought into view, and has the focus: once, whatever is edited then.
watch(
  () => sheets.sought,
  async (sought) => {
    if (!sought) return
    await nextTick()
    const line = page.value?.querySelector<HTMLElement>(`[data-line="${sought.section}-${sought.line}"]`)
    line?.scrollIntoView({ block: 'center' })
    line?.focus({ preventScroll: true })
  },
  { immediate: true },
)
</script>

<template>
  <article
    ref="page"
    class="bg-raised border-line shadow-float mx-auto max-w-6xl border px-9 py-7"
    data-testid="sheet"
  >
    <h1 class="text-2xl leading-8 font-bold wrap-anywhere">{{ sheet.title }}</h1>
    <p class="text-soft wrap-anywhere">{{ sheet.subtitle }}</p>
    <dl class="mt-3 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-0.5">
      <template v-for="fact in sheet.facts" :key="fact.label">
        <dt class="text-soft">{{ fact.label }}</dt>
        <dd class="wrap-anywhere">{{ fact.value }}</dd>
      </template>
    </dl>
    <section v-for="(section, index) in sheet.sections" :key="`${section.heading} ${index}`" class="mt-6">
      <h2 class="text-base font-bold wrap-anywhere">{{ section.heading }}</h2>
      <p v-if="section.note" class="text-soft wrap-anywhere">{{ section.note }}</p>
      <SheetDrawing v-if="section.drawing" :section :index />
      <SheetTable v-if="section.table && section.table.rows.length > 0" :section :index />
    </section>
  </article>
</template>
