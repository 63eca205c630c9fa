<script setup lang="ts">
import { Download } from '@lucide/vue'
import { destinationMap, SHEET_FORMATS } from '#core/sheets'

const rigs = useRigStore()
const shelf = useShelfStore()
const chosen = ref('')
const destinations = computed(() => rigs.rig?.destinations ?? [])
const destination = computed(
  () => destinations.value.find(({ id }) => id === chosen.value) ?? destinations.value[0] ?? null,
)
const sheet = computed(() =>
  rigs.rig && destination.value ? destinationMap(rigs.rig, destination.value.id) : null,
)

function save(format: (typeof SHEET_FORMATS)[number]): void {
  if (!sheet.value || !destination.value) return
  saveText(
    fileName(`${destination.value.name} map`, format.extension),
    format.render(sheet.value),
    format.mediaType,
  )
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
              each === destination
                ? 'bg-raised border-line font-bold'
                : 'text-soft hover:text-ink border-transparent font-medium'
            "
            :aria-current="each === destination"
            @click="chosen = each.id"
          >
            {{ each.name }}
          </button>
        </li>
      </ul>
      <p class="text-soft mt-4 px-2 text-xs">
        What moves each parameter of a destination, and where it listens: to keep beside it, or to set it up
        again.
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
