<script setup lang="ts">
import { takeOffGone, type LineReport } from '#core/bench/line-check'
import type { Id } from '#core/rig'
import { someOf } from '~/lib/some-of'

/** What was not touched yet, and what the hardware no longer has. */
const { report, controllerId } = defineProps<{ report: LineReport; controllerId: Id }>()
const line = useLineCheckStore()
const rigs = useRigStore()
const takeAway = useRemoval()
const MOST = 12

const inState = (state: 'not-touched' | 'gone') => report.lines.filter((each) => each.state === state)
const left = computed(() => inState('not-touched'))
const gone = computed(() => inState('gone'))
const named = (lines: LineReport['lines']): string =>
  someOf(
    lines.map(({ name }) => name),
    MOST,
  )
const gestures = (lines: LineReport['lines']) => lines.map(({ gesture }) => gesture)
const offer = computed(() => (rigs.rig ? takeOffGone(rigs.rig, controllerId, report.lines) : null))
function takeOff(): void {
  if (offer.value && takeAway(offer.value.label, [...offer.value.edits])) void line.start(controllerId)
}
</script>

<template>
  <div v-if="left.length > 0" class="pt-2 text-xs" data-testid="line-left">
    <p class="text-soft">Not touched yet: {{ named(left) }}</p>
    <UiButton
      v-if="report.touched > 0"
      class="mt-1"
      data-testid="line-gone"
      @click="line.miss(gestures(left), true)"
      >{{ left.length === 1 ? 'It is' : `These ${left.length} are` }} no longer there</UiButton
    >
  </div>
  <div v-if="gone.length > 0" class="pt-2 text-xs" data-testid="line-missing">
    <p><span class="font-bold">No longer there:</span> {{ named(gone) }}</p>
    <div class="flex flex-wrap gap-1.5 pt-1">
      <UiButton @click="line.miss(gestures(gone), false)">They are there</UiButton>
      <UiButton v-if="offer" :disabled="!rigs.canEdit" data-testid="line-take-off" @click="takeOff"
        >Take off the surface</UiButton
      >
    </div>
  </div>
</template>
