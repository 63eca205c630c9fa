<script setup lang="ts">
import { firstNumbers, silentGestures, USUAL_SENDING } from '#core/rig'

/** What sends nothing yet does not want a number by itself: it is asked for here. */
const plans = usePlanStore()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const found = computed(() => {
  const { rig } = rigs
  if (!rig) return []
  const owners = plans.scope === 'rig' ? rig.controllers : desk.controller ? [desk.controller] : []
  return owners
    .filter(({ inUse }) => inUse)
    .map((controller) => {
      const all = silentGestures(rig, controller)
      const silent =
        plans.scope === 'selection'
          ? all.filter(({ place }) => desk.selectedRefs.has(`${place.controller}/${place.gesture}`))
          : all
      return { controller, silent }
    })
})
const count = computed(() => found.value.reduce((sum, { silent }) => sum + silent.length, 0))

function give(): void {
  const { rig } = rigs
  if (!rig) return
  const edits = found.value.flatMap(
    ({ controller, silent }) => firstNumbers(rig, controller, USUAL_SENDING, silent).edits,
  )
  if (edit(`Give ${count.value} controls numbers`, edits)) void plans.run()
}
</script>

<template>
  <p v-if="count > 0" class="flex flex-wrap items-center gap-2" data-testid="plan-silent">
    <span>{{ count === 1 ? '1 control sends nothing yet.' : `${count} controls send nothing yet.` }}</span>
    <UiButton :disabled="!rigs.canEdit" @click="give">{{
      count === 1 ? 'Give it a number' : 'Give them numbers'
    }}</UiButton>
  </p>
</template>
