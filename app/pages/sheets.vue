<script setup lang="ts">
import { Download } from '@lucide/vue'
import { sheetsOf, SHEET_FORMATS } from '#core/sheets'

const rigs = useRigStore()
const shelf = useShelfStore()
const groups = computed(() => (rigs.rig ? sheetsOf(rigs.rig) : []))
const sheets = computed(() => groups.value.flatMap((group) => group.sheets))
const chosenId = ref('')
/** The sheet chosen; the first, as long as none is. */
const chosen = computed(() => sheets.value.find(({ id }) => id === chosenId.value) ?? sheets.value[0] ?? null)
const sheet = computed(() => chosen.value?.make() ?? null)

function save(format: (typeof SHEET_FORMATS)[number]): void {
  if (!sheet.value || !chosen.value) return
  saveText(fileName(chosen.value.fileName, format.extension), format.render(sheet.value), format.mediaType)
}
</script>

<template>
  <div v-if="sheet" class="flex h-full">
    <nav class="border-line w-56 shrink-0 overflow-y-auto border-r p-3" aria-label="Sheets">
      <section v-for="group in groups" :key="group.heading" class="mb-4">
        <h2 class="text-soft px-2 pb-1 text-xs font-medium">{{ group.heading }}</h2>
        <ul>
          <li v-for="each in group.sheets" :key="each.id">
            <button
              type="button"
              class="w-full rounded-md border px-2.5 py-1.5 text-left"
              :class="
                each === chosen
                  ? 'bg-raised border-line font-bold'
                  : 'text-soft hover:text-ink border-transparent font-medium'
              "
              :aria-current="each === chosen"
              :data-sheet="each.id"
              @click="chosenId = each.id"
            >
              {{ each.name }}
            </button>
          </li>
        </ul>
      </section>
      <p class="text-soft px-2 text-xs">
        A destination map says what moves each parameter, and where it listens: to keep beside it, or to set
        it up again.
      </p>
    </nav>
    <div class="min-w-0 flex-1 overflow-y-auto p-6">
      <div class="mx-auto mb-4 flex max-w-5xl items-center justify-end gap-1.5">
        <UiButton
          v-for="format in SHEET_FORMATS"
          :key="format.id"
          :data-export="format.id"
          @click="save(format)"
        >
          <Download :size="14" />{{ format.name }}
        </UiButton>
      </div>
      <SheetPreview :sheet="sheet" />
    </div>
  </div>
  <EmptyState v-else title="Nothing to write down yet">
    A sheet is a document made from the rig. No rig is open.
    <template #actions>
      <UiButton look="strong" @click="(shelf.openDemo('as-performed'), navigateTo('/sheets'))"
        >Open the demo</UiButton
      >
    </template>
  </EmptyState>
</template>
