<script setup lang="ts">
import { takeOverStranger, type LineReport, type Stranger } from '#core/bench/line-check'

/** What came that nothing explains: which control was it, and is what it sends to be written down? */
const { report } = defineProps<{ report: LineReport }>()
const line = useLineCheckStore()
const rigs = useRigStore()
const edit = useEdit()
const UNKNOWN = ''
const MOST = 8
const options = computed(() => [
  { value: UNKNOWN, label: 'choose' },
  ...report.lines.map(({ gesture, name }) => ({ value: gesture, label: name })),
])
function takeOver(stranger: Stranger) {
  const showing = line.controllerId ? line.showings()[line.controllerId] : undefined
  return rigs.rig && line.controllerId && showing
    ? takeOverStranger(rigs.rig, line.controllerId, showing, stranger)
    : null
}
function take(stranger: Stranger): void {
  const found = takeOver(stranger)
  if (found) edit(found.label, found.edits)
}
</script>

<template>
  <section
    class="pt-2 text-xs"
    aria-label="Came from no control that is written"
    data-testid="line-strangers"
  >
    <h3 class="font-bold">Came, and is written nowhere</h3>
    <ul>
      <li
        v-for="stranger in report.strangers.slice(0, MOST)"
        :key="stranger.key"
        class="flex flex-wrap items-center gap-2"
      >
        <span class="tag">{{ stranger.text }}</span>
        <UiSelect
          :label="`The control that sent ${stranger.text}`"
          caption="it was"
          :model-value="stranger.touched ?? UNKNOWN"
          :options="options"
          is-right
          @update:model-value="line.blame(stranger.key, $event === UNKNOWN ? null : $event)"
        />
        <UiButton v-if="takeOver(stranger)" :disabled="!rigs.canEdit" @click="take(stranger)"
          >Write it down</UiButton
        >
      </li>
    </ul>
    <p v-if="report.strangers.length > MOST" class="text-soft">
      and {{ report.strangers.length - MOST }} more
    </p>
  </section>
</template>
