<script setup lang="ts">
import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/vue'
import { ChevronRight, Undo2 } from '@lucide/vue'
import type { BinnedRig } from '~/stores/shelf'

const emit = defineEmits<{ done: [] }>()
const shelf = useShelfStore()
const asksToEmpty = ref(false)

const stays = ({ daysLeft }: BinnedRig): string =>
  daysLeft === 1 ? '1 more day in use' : `${daysLeft} more days in use`

async function empty(): Promise<void> {
  asksToEmpty.value = false
  await shelf.clearBin()
}
</script>

<template>
  <Disclosure v-slot="{ open }" as="div" class="border-line border-t py-2" data-testid="rig-bin">
    <DisclosureButton class="text-soft flex items-center gap-1 text-xs">
      <ChevronRight :size="12" :class="open && 'rotate-90'" />Deleted rigs {{ shelf.bin.length }}
    </DisclosureButton>
    <DisclosurePanel>
      <ul class="-mx-1 my-1 max-h-40 overflow-auto px-1 py-1">
        <li v-for="entry in shelf.bin" :key="entry.id" class="flex items-center gap-3 px-2 py-1">
          <span class="min-w-0 flex-1 truncate">{{ entry.name }}</span>
          <span class="text-soft shrink-0 text-xs">{{ stays(entry) }}</span>
          <UiButton look="plain" @click="(shelf.bringBack(entry.id), emit('done'))"
            ><Undo2 :size="14" />Take back</UiButton
          >
        </li>
      </ul>
      <div v-if="asksToEmpty" class="flex items-center gap-1.5">
        <span class="text-soft mr-auto text-xs">They cannot be taken back then.</span>
        <UiButton @click="asksToEmpty = false">Leave them</UiButton>
        <UiButton look="strong" @click="empty">Remove {{ shelf.bin.length }} for good</UiButton>
      </div>
      <UiButton v-else look="plain" @click="asksToEmpty = true">Empty the bin…</UiButton>
    </DisclosurePanel>
  </Disclosure>
</template>
