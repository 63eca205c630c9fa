<script setup lang="ts">
import { Download } from '@lucide/vue'
import type { Rig } from '#core/rig'
import { destinationMap, lightKey, relearnSheet, SHEET_FORMATS, type SheetDocument } from '#core/sheets'

const rigs = useRigStore()
const shelf = useShelfStore()
/** Sheets of the whole rig. */
const OTHERS: ReadonlyArray<{ id: string; name: string; of: (rig: Rig) => SheetDocument }> = [
  { id: 'teach', name: 'Teach again', of: relearnSheet },
  { id: 'lights', name: 'Light key', of: lightKey },
]
const other = computed(() => OTHERS.find(({ id }) => `sheet ${id}` === chosen.value) ?? null)
/** A destination's id, or another sheet. */
const chosen = ref('')
const destinations = computed(() => rigs.rig?.destinations ?? [])
const destination = computed(
  () => destinations.value.find(({ id }) => id === chosen.value) ?? destinations.value[0] ?? null,
)
const sheet = computed(() => {
  if (!rigs.rig || !destination.value) return null
  return other.value ? other.value.of(rigs.rig) : destinationMap(rigs.rig, destination.value.id)
})
const name = computed(() => other.value?.name ?? `${destination.value?.name ?? ''} map`)

function save(format: (typeof SHEET_FORMATS)[number]): void {
  if (!sheet.value) return
  saveText(fileName(name.value, format.extension), format.render(sheet.value), format.mediaType)
}
</script>

<template>
  <div v-if="sheet && destination" class="flex h-full">
    <nav class="border-line w-56 shrink-0 overflow-y-auto border-r p-3" aria-label="Sheets">
      <h2 class="text-soft px-2 pb-1 text-xs font-medium">Destination maps</h2>
      <ul>
        <li v-for="each in destinations" :key="each.id">
          <button
            type="button"
            class="w-full rounded-md border px-2.5 py-1.5 text-left"
            :class="
              each === destination && !other
                ? 'bg-raised border-line font-bold'
                : 'text-soft hover:text-ink border-transparent font-medium'
            "
            :aria-current="each === destination && !other"
            @click="chosen = each.id"
          >
            {{ each.name }}
          </button>
        </li>
      </ul>
      <h2 class="text-soft mt-4 px-2 pb-1 text-xs font-medium">Of the whole rig</h2>
      <button
        v-for="each in OTHERS"
        :key="each.id"
        type="button"
        class="w-full rounded-md border px-2.5 py-1.5 text-left"
        :class="
          each === other
            ? 'bg-raised border-line font-bold'
            : 'text-soft hover:text-ink border-transparent font-medium'
        "
        :aria-current="each === other"
        :data-sheet="each.id"
        @click="chosen = `sheet ${each.id}`"
      >
        {{ each.name }}
      </button>
      <p class="text-soft mt-4 px-2 text-xs">
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
    A sheet is a document made from the rig.
    {{ rigs.rig ? 'This rig has no destination yet.' : 'No rig is open.' }}
    <template #actions>
      <UiButton look="strong" @click="(shelf.openDemo('as-performed'), navigateTo('/sheets'))"
        >Open the demo</UiButton
      >
    </template>
  </EmptyState>
</template>
