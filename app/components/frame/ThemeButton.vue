<script setup lang="ts">
import { MonitorCog, Moon, Sun } from '@lucide/vue'
import type { ThemeChoice } from '~/stores/preferences'

const preferences = usePreferencesStore()
const ORDER: readonly ThemeChoice[] = ['system', 'vellum', 'night']
const NAMES: Readonly<Record<ThemeChoice, string>> = {
  system: 'Light or dark as the system',
  vellum: 'Light',
  night: 'Dark',
}
const next = computed(() => ORDER[(ORDER.indexOf(preferences.themeChoice) + 1) % ORDER.length] ?? 'system')
</script>

<template>
  <UiButton
    look="plain"
    :label="`${NAMES[preferences.themeChoice]}; change to: ${NAMES[next].toLowerCase()}`"
    @click="preferences.themeChoice = next"
  >
    <MonitorCog v-if="preferences.themeChoice === 'system'" :size="16" />
    <Sun v-else-if="preferences.themeChoice === 'vellum'" :size="16" />
    <Moon v-else :size="16" />
  </UiButton>
</template>
