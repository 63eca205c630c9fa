<script setup lang="ts">
import type { Lens } from '~/stores/preferences'

/** What the surface shows, and what stands below it. */
const preferences = usePreferencesStore()
const LENSES: ReadonlyArray<{ id: Lens; name: string }> = [
  { id: 'addresses', name: 'Addresses' },
  { id: 'behaviour', name: 'Behaviour' },
  { id: 'destinations', name: 'Destinations' },
  { id: 'lights', name: 'Lights' },
]
</script>

<template>
  <div
    class="bg-raised border-line flex rounded-md border p-px"
    role="radiogroup"
    aria-label="What the surface shows"
  >
    <button
      v-for="lens in LENSES"
      :key="lens.id"
      type="button"
      role="radio"
      class="text-2xs h-[18px] rounded-[4px] px-2 font-medium"
      :class="preferences.lens === lens.id ? 'bg-ink text-sheet' : 'text-soft hover:text-ink'"
      :aria-checked="preferences.lens === lens.id"
      :data-lens="lens.id"
      @click="preferences.lens = lens.id"
    >
      {{ lens.name }}
    </button>
  </div>
</template>
