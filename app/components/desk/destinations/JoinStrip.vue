<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'
import { controlName } from '#core/rig'
import { itemName } from '~/lib/destinations/board'

/** What would be joined to what, and the button that does it. */
const joining = useJoiningStore()
const joins = useJoinByMovingStore()
const desk = useDeskStore()
const rigs = useRigStore()

const named = (names: readonly string[]): string =>
  names.length <= 2 ? names.join(', ') : `${names[0]} to ${names.at(-1)}, ${names.length} in order`
const controls = computed(() => named(desk.selected.map(controlName)))
const things = computed(() => named(joining.chosen.map(itemName)))
const count = computed(() =>
  Math.min(joining.places.length, joining.targets.filter((each) => each !== null).length),
)
const hint = computed(() => {
  if (!desk.controller?.inUse)
    return 'This controller is put away: what it would move can still be written down.'
  if (desk.selected.length === 0)
    return 'Select controls above, and what they are to move here; or drag one to the other.'
  if (joining.places.length === 0)
    return 'These controls are in a stack that shows no layer now: choose one above.'
  return joining.chosen.length === 0
    ? 'Now pick what is to be moved. Shift picks a run, the space bar one more.'
    : ''
})
/** What is picked waits for controls to be moved, in order. */
function joinByMoving(): void {
  if (!joining.destination) return
  const wanted = joining.chosen.map((item) => ({ name: itemName(item), target: item.target }))
  joins.begin(joining.destination.id, joining.list === 'parameters' ? joining.scopeId : null, wanted)
  joining.pick([])
}
</script>

<template>
  <LazyJoinByMoving v-if="joins.isOn" />
  <footer
    v-else
    class="border-line flex h-9 shrink-0 items-center gap-2 border-t px-4"
    data-testid="join-strip"
  >
    <template v-if="desk.selected.length > 0">
      <span class="max-w-72 truncate font-medium" data-testid="join-controls">{{ controls }}</span>
      <ArrowRight :size="14" class="text-soft shrink-0" aria-label="to" />
    </template>
    <span class="max-w-96 truncate font-medium" data-testid="join-things">{{ things }}</span>
    <span class="text-soft truncate">{{ hint }}</span>
    <UiButton
      v-if="joining.chosen.length > 0"
      class="ml-auto"
      data-testid="join-by-moving-now"
      :disabled="!rigs.canEdit"
      @click="joinByMoving"
      >Join by moving</UiButton
    >
    <UiButton
      v-if="joining.chosen.length > 0 && joining.places.length > 0"
      look="strong"
      data-testid="join-now"
      :disabled="!rigs.canEdit"
      @click="joining.join()"
      >{{ count === 1 ? 'Join' : `Join ${count}` }}</UiButton
    >
  </footer>
</template>
