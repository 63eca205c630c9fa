<script setup lang="ts">
import { Download, LoaderCircle } from '@lucide/vue'
import { FORMATS } from '~/lib/sheet-formats'

/** How the sheet is made, and the formats it can be kept in. */
const sheets = useSheetsStore()
const { save } = useSheetFiles()
const options = computed(() =>
  (sheets.current?.options ?? []).map(({ id, label, choices }) => ({
    id,
    label,
    choices: choices.map((choice) => ({ value: choice.id, label: choice.name })),
    chosen: sheets.chosen[id] ?? choices[0]?.id ?? '',
  })),
)
</script>

<template>
  <div class="border-line flex min-h-11 shrink-0 flex-wrap items-center gap-1.5 border-b px-6 py-2">
    <template v-if="!sheets.isBook">
      <UiSelect
        v-for="each in options"
        :key="each.id"
        :model-value="each.chosen"
        :options="each.choices"
        :label="each.label"
        :caption="each.label"
        :data-option="each.id"
        @update:model-value="sheets.set(each.id, $event)"
      />
    </template>
    <slot />
    <span class="ml-auto" />
    <UiButton v-if="sheets.writing !== null" look="strong" data-testid="stop-writing" @click="sheets.stop()"
      >Stop</UiButton
    >
    <UiButton
      v-for="format in FORMATS"
      :key="format.id"
      :data-export="format.id"
      :disabled="sheets.writing !== null || (sheets.isBook && sheets.inBook.length === 0)"
      @click="save(format.id)"
    >
      <LoaderCircle
        v-if="sheets.writing === format.id"
        :size="14"
        class="animate-spin motion-reduce:animate-none"
      />
      <Download v-else :size="14" />{{ format.name }}
    </UiButton>
  </div>
</template>
