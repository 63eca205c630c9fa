<script setup lang="ts">
import { plainNumber, realSteps, wholeSteps, type WholeRange } from '#core/values'
import type { MappingFacts } from '#core/mappings'
import { realStepWords, wholeStepRefusal } from '~/lib/mapping/words'

/** Ranges in which every step of the control is a whole number of units, for what has to be covered. */
const { facts } = defineProps<{ facts: MappingFacts }>()
const emit = defineEmits<{ choose: [range: WholeRange] }>()

const units = ref(1)
const low = ref(facts.range.min)
const high = ref(facts.range.max)
const share = computed(() => facts.share ?? 0)
const isPossible = computed(() => low.value < high.value && units.value > 0)
const found = computed(() =>
  isPossible.value
    ? wholeSteps({
        share: share.value,
        units: units.value,
        low: low.value,
        high: high.value,
        min: facts.range.span.min,
        max: facts.range.span.max,
      })
    : null,
)
const text = ({ min, max }: WholeRange): string => `${plainNumber(min)} to ${plainNumber(max)}`
/** The ranges to choose from, each once. */
const offers = computed(() => {
  if (found.value?.kind !== 'found') return []
  const { lowest, middle, highest } = found.value
  return [...new Map([middle, lowest, highest].map((range) => [text(range), range])).values()]
})
const chosen = computed(() => realSteps({ min: low.value, max: high.value }, share.value, units.value))
const now = computed(() => realSteps(facts.range, share.value, units.value))
</script>

<template>
  <div class="flex flex-col gap-1.5 text-xs" data-testid="whole-steps">
    <p class="flex flex-wrap items-center gap-1.5">
      Step exactly
      <NumberInput v-model="units" class="w-14!" :step="0.1" aria-label="Units a step" />
      {{ facts.range.span.unit || (units === 1 ? 'unit' : 'units') }} a
      {{ facts.travel.kind === 'clicks' ? 'click' : 'step' }}, covering at least
      <NumberInput v-model="low" aria-label="Covering from" /> to
      <NumberInput v-model="high" aria-label="Covering to" />
    </p>
    <p v-if="!isPossible" class="text-conflict" role="alert">
      The first end must be below the second, and a step more than nothing.
    </p>
    <template v-else-if="found?.kind === 'found'">
      <div class="flex flex-wrap items-center gap-1.5">
        <UiButton
          v-for="range in offers"
          :key="text(range)"
          :data-range="text(range)"
          @click="emit('choose', range)"
          >{{ text(range) }}</UiButton
        >
      </div>
      <p class="text-soft">
        {{ found.count === 1 ? 'The only range' : `${found.count} ranges` }}, each
        {{ plainNumber(found.width) }} wide<template v-if="found.count > 1"
          >: from {{ text(found.lowest) }} up to {{ text(found.highest) }}</template
        >. {{ plainNumber(low) }} to {{ plainNumber(high) }} itself does not do:
        {{ realStepWords(chosen) }}
      </p>
    </template>
    <p v-else-if="found" class="text-advice" role="status">{{ wholeStepRefusal(found) }}</p>
    <p class="text-soft">As it is now: {{ realStepWords(now) }}</p>
  </div>
</template>
