<script setup lang="ts">
import { ArrowLeft, Download, FileUp } from '@lucide/vue'
import { destinationProperties, namesOf, type Destination } from '#core/rig'
import type { ListKind } from '~/lib/destinations/read-list'

/** What a destination has, in the place of the picture: parameters, sounds, presets and scopes. */
const { destination } = defineProps<{ destination: Destination }>()
const picture = usePictureStore()
const preferences = usePreferencesStore()
const joining = useJoiningStore()

type Tab = ListKind | 'scopes'
const TABS: ReadonlyArray<{ id: Tab; name: string }> = [
  { id: 'parameters', name: 'Parameters' },
  { id: 'sounds', name: 'Sounds' },
  { id: 'presets', name: 'Presets' },
  { id: 'scopes', name: 'Scopes' },
]
const tab = ref<Tab>('parameters')
const isReading = ref(false)
watch(tab, () => (isReading.value = false))
const counts = computed<Readonly<Record<Tab, number>>>(() => ({
  parameters: destination.parameters.length,
  sounds: destination.noteNames.length,
  presets: destination.programs.length,
  scopes: destination.scopes.length,
}))
const tabs = computed(() => TABS.map((each) => ({ ...each, hint: counts.value[each.id] })))
const files = useListFiles()
const saveNames = (): void => void files.saveNames(destination.name, namesOf(destination))
const saveProperties = (): void =>
  void files.saveProperties(destination.name, destinationProperties(destination))
async function toDesk(): Promise<void> {
  joining.choose(destination.id)
  preferences.lens = 'destinations'
  await navigateTo('/desk')
}
</script>

<template>
  <section
    class="bg-sheet flex h-full min-w-0 flex-col"
    :aria-label="`Lists of ${destination.name}`"
    data-testid="destination-view"
  >
    <header class="border-line flex h-12 shrink-0 items-center gap-2 border-b px-4">
      <UiButton look="plain" class="-ml-2 px-1.5!" label="Back to the picture" @click="picture.close()"
        ><ArrowLeft :size="15"
      /></UiButton>
      <h1 class="text-lg font-bold">{{ destination.name }}</h1>
      <TabStrip v-model="tab" class="ml-3" :tabs="tabs" label="Lists" />
      <UiButton
        v-if="tab !== 'scopes'"
        class="ml-auto"
        :look="isReading ? 'strong' : 'quiet'"
        :aria-pressed="isReading"
        data-testid="read-open"
        @click="isReading = !isReading"
        ><FileUp :size="13" />Read a list</UiButton
      >
      <UiButton :class="tab === 'scopes' && 'ml-auto'" data-testid="save-names" @click="saveNames"
        ><Download :size="13" />MIDI names</UiButton
      >
      <UiButton
        title="Channels, fixed numbers and presets, as MIDI-CI property exchange has them (JSON)"
        data-testid="save-properties"
        @click="saveProperties"
        ><Download :size="13" />MIDI-CI lists</UiButton
      >
      <UiButton look="strong" @click="toDesk">Join controls</UiButton>
    </header>
    <ReadList
      v-if="isReading && tab !== 'scopes'"
      :key="tab"
      :destination="destination"
      :kind="tab"
      @done="isReading = false"
    />
    <ParameterRows v-else-if="tab === 'parameters'" :key="destination.id" :destination="destination" />
    <NoteRows v-else-if="tab === 'sounds'" :destination="destination" />
    <ProgramRows v-else-if="tab === 'presets'" :destination="destination" />
    <ScopeRows v-else :destination="destination" />
  </section>
</template>
