<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

const shelf = useShelfStore()
const close = (): void => {
  shelf.refused = null
}
</script>

<template>
  <Dialog :open="shelf.refused !== null" class="relative z-50" @close="close">
    <div class="bg-ink/40 fixed inset-0" aria-hidden="true" />
    <div class="fixed inset-0 grid place-items-center p-6">
      <DialogPanel
        class="bg-sheet border-line shadow-float flex max-h-full w-full max-w-xl flex-col rounded-lg border p-5"
      >
        <DialogTitle class="text-lg font-bold">“{{ shelf.refused?.name }}” was not opened</DialogTitle>
        <p class="text-soft mt-1">
          Nothing has changed: your rigs are as they were. What is wrong in the file:
        </p>
        <ul class="border-line mt-3 min-h-0 overflow-auto border-t">
          <li
            v-for="problem in shelf.refused?.problems"
            :key="problem.path + problem.message"
            class="border-hair border-b py-2"
          >
            <code class="tag text-soft block break-all">{{ problem.path }}</code>
            <span class="font-medium">{{ problem.message }}</span>
          </li>
        </ul>
        <div class="mt-4 flex items-center justify-between gap-4">
          <p class="text-soft text-xs">Mend the file there, or export it again where it came from.</p>
          <UiButton look="strong" @click="close">Close</UiButton>
        </div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
