<script setup lang="ts">
import { KIND_FACTS } from '#core/rig'

/** Widen or turn round a selection: its blocks, all of its kinds, everything else. */
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
const invert = (): void => desk.selectMany(ids(({ id }) => !desk.selectedIds.includes(id)))
</script>

<template>
  <div class="-ml-2.5 flex flex-wrap">
    <UiButton v-if="blocks.size > 0" look="plain" data-testid="whole-block" @click="wholeBlock"
      >Whole block</UiButton
    >
    <UiButton look="plain" @click="allOfKind">All {{ kindWords }}</UiButton>
    <UiButton look="plain" @click="invert">Invert</UiButton>
  </div>
</template>
