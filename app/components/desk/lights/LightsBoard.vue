<script setup lang="ts">
import type { Look, LightsTab } from '~/stores/lights'

/** The lens on lights: roles, the palette of the controller, and the messages that set all at the start. */
const lights = useLightsStore()
const desk = useDeskStore()

const TABS: ReadonlyArray<{ id: LightsTab; name: string }> = [
  { id: 'roles', name: 'Roles' },
  { id: 'palette', name: 'Palette' },
  { id: 'light-init', name: 'At the start' },
]
const LOOKS: ReadonlyArray<{ value: Look; label: string }> = [
  { value: 'start', label: 'at the start' },
  { value: 'on', label: 'all on' },
  { value: 'active', label: 'the selected ones active' },
  { value: 'value', label: 'when a value comes back' },
]
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Lights" data-testid="lights">
    <header class="flex h-11 shrink-0 items-center gap-2.5 px-4">
      <h2 class="text-base font-bold">Lights</h2>
      <TabStrip v-model="lights.tab" :tabs="TABS" label="Of the lights" />
      <label v-if="lights.look === 'value'" class="text-soft ml-auto flex items-center gap-1.5 text-xs"
        >value
        <input
          v-model.number="lights.sentBack"
          type="range"
          min="0"
          max="127"
          class="accent-ink w-32"
          data-testid="sent-back"
        />
        <span class="tag w-7">{{ lights.sentBack }}</span></label
      >
      <UiSelect
        v-model="lights.look"
        :class="lights.look === 'value' ? '' : 'ml-auto'"
        label="The surface shows"
        caption="shown"
        :options="LOOKS"
      />
    </header>
    <p v-if="!desk.controller?.inUse" class="text-soft px-4 text-xs">This controller is put away.</p>
    <RolesTab v-if="lights.tab === 'roles'" />
    <PaletteTab v-else-if="lights.tab === 'palette'" />
    <LightInitTab v-else />
  </section>
</template>
