<script setup lang="ts">
import type { Control, FirstSending } from '#core/rig'

/** What the controls of a new controller send at once; only what there is to choose for. */
const { controls } = defineProps<{ controls: readonly Control[] }>()
const sending = defineModel<FirstSending>({ required: true })

const kinds = computed(() => new Set(controls.map(({ kind }) => kind)))
const PLAYED = new Set<Control['kind']>(['pad', 'button', 'footswitch', 'keybed'])
const hasMoved = computed(() => controls.some(({ kind }) => !PLAYED.has(kind)))
const hasButtons = computed(() => kinds.value.has('button') || kinds.value.has('footswitch'))
const FIELD = 'bg-raised border-line text-ink ml-1.5 h-7 rounded-md border px-1.5'
</script>

<template>
  <fieldset class="flex flex-wrap gap-x-4 gap-y-1.5 text-xs" data-testid="sending">
    <legend class="text-soft float-left mr-1 w-full">
      They send at once, on numbers that nobody else has, on a channel of their own:
    </legend>
    <label v-if="hasMoved" class="text-soft"
      >Knobs, faders
      <select v-model="sending.moved" :class="FIELD">
        <option value="cc">CC numbers</option>
        <option value="nothing">nothing yet</option>
      </select></label
    >
    <label v-if="kinds.has('pad')" class="text-soft"
      >Pads
      <select v-model="sending.pads" :class="FIELD">
        <option value="notes">notes from C1</option>
        <option value="drums">drum notes, channel 10</option>
        <option value="held">CC, on while held</option>
        <option value="nothing">nothing yet</option>
      </select></label
    >
    <label v-if="hasButtons" class="text-soft"
      >Buttons
      <select v-model="sending.buttons" :class="FIELD">
        <option value="held">CC, on while held</option>
        <option value="stays">CC, on until pressed again</option>
        <option value="notes">notes</option>
        <option value="nothing">nothing yet</option>
      </select></label
    >
  </fieldset>
</template>
