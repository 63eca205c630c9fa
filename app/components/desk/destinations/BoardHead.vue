<script setup lang="ts">
import type { BoardList } from '~/lib/destinations/board'

const joining = useJoiningStore()
const picture = usePictureStore()

const NAMES: Readonly<Record<BoardList, string>> = {
  parameters: 'Parameters',
  sounds: 'Sounds',
  presets: 'Presets',
}
const tabs = computed(() => joining.lists.map((id) => ({ id, name: NAMES[id] })))
const EVERYWHERE = ''
const destination = computed({
  get: () => joining.destination?.id ?? '',
  set: (id) => joining.choose(id),
})
const scope = computed({
  get: () => joining.scope?.id ?? EVERYWHERE,
  set: (id) => (joining.scopeId = id || null),
})
const scopes = computed(() => [
  { value: EVERYWHERE, label: 'everywhere' },
  ...(joining.destination?.scopes ?? []).map(({ id, name }) => ({ value: id, label: `only in ${name}` })),
])
async function openView(): Promise<void> {
  if (joining.destination) picture.open(joining.destination.id)
  await navigateTo('/rig')
}
</script>

<template>
  <header class="flex h-11 shrink-0 items-center gap-2.5 px-4">
    <UiSelect
      v-model="destination"
      label="Destination"
      :options="joining.destinations.map(({ id, name }) => ({ value: id, label: name }))"
    />
    <TabStrip
      v-if="tabs.length > 1"
      v-model="joining.list"
      :tabs="tabs"
      label="What of it"
      attribute="data-list"
    />
    <input
      v-model="joining.query"
      type="search"
      class="bg-raised border-line h-7 w-40 rounded-md border px-2"
      placeholder="Search"
      aria-label="Search in this destination"
      data-testid="board-search"
    />
    <label
      v-if="joining.list === 'parameters'"
      class="text-soft flex items-center gap-1.5 text-xs whitespace-nowrap"
      ><input v-model="joining.onlyUnmoved" type="checkbox" class="accent-ink" />nothing moves it</label
    >
    <label
      v-if="joining.list === 'sounds'"
      class="text-soft flex items-center gap-1.5 text-xs whitespace-nowrap"
      ><input
        type="checkbox"
        class="accent-ink"
        :checked="joining.gaps === 'kept'"
        data-testid="keep-gaps"
        @change="joining.gaps = joining.gaps === 'kept' ? 'closed' : 'kept'"
      />leave a pad free where there is no sound</label
    >
    <UiSelect
      v-if="joining.list === 'parameters' && scopes.length > 1"
      v-model="scope"
      label="Where a new mapping counts"
      caption="counts"
      :options="scopes"
    />
    <UiButton class="ml-auto" data-testid="open-destination" @click="openView">Edit its lists</UiButton>
  </header>
</template>
