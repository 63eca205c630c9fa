<script setup lang="ts">
import { columnsWith, KIND_FACTS, rowsWith } from '#core/rig'
import { toast } from '~/lib/toast'

/** Widen or turn round a selection: its blocks, rows, columns, all of its kinds, everything else. */
const desk = useDeskStore()
const all = computed(() => desk.model?.surface.controls ?? [])
const blocks = computed(() => new Set(desk.selected.flatMap(({ block }) => block ?? [])))
const kinds = computed(() => new Set(desk.selected.map(({ kind }) => kind)))
const kindWords = computed(() =>
  [...kinds.value].map((kind) => KIND_FACTS[kind].plural.toLowerCase()).join(' and '),
)

const ids = (test: (control: (typeof all.value)[number]) => boolean) =>
  all.value.filter(test).map(({ id }) => id)
const wholeBlock = (): void =>
  desk.selectMany(
    ids(({ id, block }) => desk.selectedIds.includes(id) || (block !== null && blocks.value.has(block))),
  )
const allOfKind = (): void => desk.selectMany(ids(({ kind }) => kinds.value.has(kind)))
const pick = (controls: ReadonlyArray<{ id: string }>): void => desk.selectMany(controls.map(({ id }) => id))
const wholeRow = (): void => pick(rowsWith(all.value, desk.selected))
const wholeColumn = (): void => pick(columnsWith(all.value, desk.selected))
const invert = (): void => desk.selectMany(ids(({ id }) => !desk.selectedIds.includes(id)))

const called = ref('')
function selectCalled(): void {
  const words = called.value.trim().toLowerCase()
  const found = words === '' ? [] : ids(({ label }) => label.toLowerCase().includes(words))
  if (found.length > 0) desk.selectMany(found)
  else if (words !== '') toast(`No control here is called “${called.value.trim()}”.`)
}
</script>

<template>
  <div class="-ml-2.5 flex flex-wrap">
    <UiButton v-if="blocks.size > 0" look="plain" data-testid="whole-block" @click="wholeBlock"
      >Block</UiButton
    >
    <UiButton v-if="kinds.size > 0" look="plain" @click="allOfKind">All {{ kindWords }}</UiButton>
    <template v-if="kinds.size > 0">
      <UiButton look="plain" data-testid="whole-row" @click="wholeRow">Row</UiButton>
      <UiButton look="plain" data-testid="whole-column" @click="wholeColumn">Column</UiButton>
    </template>
    <UiButton v-if="kinds.size > 0" look="plain" @click="invert">Invert</UiButton>
    <form class="ml-2.5 flex items-center" @submit.prevent="selectCalled">
      <input
        v-model="called"
        class="bg-raised border-line h-6.5 w-28 rounded-md border px-2 text-xs"
        placeholder="All called …"
        aria-label="Select all controls with this in their name"
        data-testid="select-called"
      />
    </form>
  </div>
</template>
