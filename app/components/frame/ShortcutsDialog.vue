<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

const emit = defineEmits<{ done: [] }>()
const GROUPS = [
  {
    name: 'Everywhere',
    keys: [
      ['/ or Ctrl K', 'find a control, layer, address or command'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
      ['] and [', 'next and last finding'],
      ['?', 'this list'],
    ],
  },
  {
    name: 'Surface',
    keys: [
      ['arrows', 'to the nearest control that way'],
      ['Shift arrows', 'and select it too'],
      ['Home, End', 'first and last of the block'],
      ['Enter', 'edit the address'],
      ['Esc', 'leave'],
    ],
  },
  {
    name: 'Drawing',
    keys: [
      ['Alt arrows', 'nudge by half a mm; with Shift by 5 mm'],
      ['Ctrl D', 'duplicate'],
      ['Delete', 'delete'],
    ],
  },
  {
    name: 'Lattice',
    keys: [
      ['arrows', 'cell by cell'],
      ['Ctrl arrows', 'next in use'],
      ['Shift arrows', 'next free'],
      ['Page Down, Page Up', 'next and last finding'],
      ['Enter', 'select who sends'],
      ['z, Esc', 'one channel with names, all again'],
    ],
  },
  {
    name: 'Table',
    keys: [
      ['arrows, Shift arrows', 'walk, extend'],
      ['Enter or F2', 'edit the cell'],
      ['Ctrl C, Ctrl V', 'copy, paste a block'],
      ['Ctrl D', 'fill down'],
    ],
  },
] as const
</script>

<template>
  <Dialog open class="relative z-50" @close="emit('done')">
    <div class="bg-ink/40 fixed inset-0" aria-hidden="true" />
    <div class="fixed inset-0 grid place-items-center p-6">
      <DialogPanel
        class="bg-sheet border-line shadow-float max-h-full w-full max-w-2xl overflow-auto rounded-lg border p-5"
      >
        <DialogTitle class="text-lg font-bold">Keyboard</DialogTitle>
        <div class="mt-3 grid grid-cols-2 gap-x-8 gap-y-4">
          <section v-for="group in GROUPS" :key="group.name">
            <h3 class="text-soft text-xs font-medium">{{ group.name }}</h3>
            <dl class="mt-1 grid grid-cols-[max-content_1fr] gap-x-3 gap-y-0.5">
              <template v-for="[keys, does] in group.keys" :key="keys">
                <dt class="tag">{{ keys }}</dt>
                <dd>{{ does }}</dd>
              </template>
            </dl>
          </section>
        </div>
        <div class="mt-4 text-right"><UiButton look="strong" @click="emit('done')">Close</UiButton></div>
      </DialogPanel>
    </div>
  </Dialog>
</template>
