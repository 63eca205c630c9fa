<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { ChevronDown } from '@lucide/vue'

const rigs = useRigStore()
// The menu is gone when the file has been chosen; who waits for it must not be.
const { chooseFile } = useRigFiles()
</script>

<template>
  <Popover v-slot="{ close }" class="relative min-w-0">
    <PopoverButton
      class="hover:bg-hair flex max-w-72 items-center gap-1.5 rounded-md px-2 py-1 font-medium"
      data-testid="rig-menu"
    >
      <span class="truncate">{{ rigs.rig?.name ?? 'No rig open' }}</span>
      <ChevronDown :size="14" class="text-soft shrink-0" aria-hidden="true" />
    </PopoverButton>
    <PopoverPanel
      class="bg-raised border-line shadow-float absolute left-0 mt-2 w-[27rem] rounded-lg border p-3"
    >
      <LazyRigMenuPanel @done="close()" @import="chooseFile()" />
    </PopoverPanel>
  </Popover>
</template>
