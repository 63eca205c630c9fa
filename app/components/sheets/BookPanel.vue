<script setup lang="ts">
import type { SheetDocument } from '#core/sheets'

/** Which sheets are bound into the book. */
const sheets = useSheetsStore()
const isIn = computed(() => new Set(sheets.inBook.map(({ id }) => id)))
function toggle(id: string, { target }: Event): void {
  if (target instanceof HTMLInputElement) sheets.bind(id, target.checked)
}
const papers: ReadonlyArray<{ value: NonNullable<SheetDocument['paper']>; label: string }> = [
  { value: 'a4', label: 'A4' },
  { value: 'a3', label: 'A3' },
  { value: 'letter', label: 'Letter' },
]
const paper = computed({
  get: () => sheets.paper ?? 'a4',
  set: (next) => (sheets.paper = next),
})
</script>

<template>
  <article class="bg-raised border-line shadow-float mx-auto max-w-6xl border px-9 py-7" data-testid="book">
    <div class="flex items-baseline gap-4">
      <h1 class="text-2xl leading-8 font-bold">The book</h1>
      <span class="ml-auto"
        ><UiSelect v-model="paper" :options="papers" label="Paper" caption="Paper" is-right
      /></span>
    </div>
    <p class="text-soft max-w-prose">
      Sheets bound into one document, with contents, page numbers, the day and the version of the rig. Choose
      what goes in, then a format above. {{ sheets.inBook.length }} of {{ sheets.all.length }} sheets are in.
    </p>
    <div class="mt-4 columns-2 gap-8 xl:columns-3">
      <fieldset v-for="group in sheets.groups" :key="group.heading" class="mb-4 break-inside-avoid">
        <legend class="text-base font-bold">{{ group.heading }}</legend>
        <label v-for="each in group.sheets" :key="each.id" class="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            class="accent-ink size-4"
            :checked="isIn.has(each.id)"
            :data-bind="each.id"
            @change="toggle(each.id, $event)"
          />{{ each.name }}
        </label>
      </fieldset>
    </div>
  </article>
</template>
