<script setup lang="ts">
import { TAKEOVER_WORDS, type Destination, type Mapping, type Parameter } from '#core/rig'
import { endProblem, spanOf } from '#core/values'
import { CURVE_NAMES, expectsOf, mannerOf, MANNERS, type Manner } from '~/lib/mapping/words'

/** All that can be said of a mapping beyond its two ends. */
const { mapping, destination, parameter } = defineProps<{
  mapping: Mapping
  destination: Destination
  parameter: Parameter
}>()
const rigs = useRigStore()
const emit = defineEmits<{ set: [label: string, change: Partial<Omit<Mapping, 'id'>>] }>()

const span = computed(() => spanOf(parameter))
const keys = useKeysAtHand()
const hasRange = computed(() => parameter.kind !== 'action' && parameter.kind !== 'note')
const textOf = (event: Event): string => (event.target as HTMLInputElement | HTMLSelectElement).value

const refusal = ref<string | null>(null)
/** An end as typed: empty is the parameter's own. What is no number goes back to what was. */
function setEnd(end: 'min' | 'max', event: Event): void {
  const input = event.target as HTMLInputElement
  const typed = input.value.trim().replace(',', '.')
  const number = typed === '' ? null : Number(typed)
  refusal.value =
    number !== null && !Number.isFinite(number)
      ? `“${typed}” is no number.`
      : endProblem(mapping, parameter, end, number)
  if (refusal.value === null)
    emit('set', end === 'min' ? 'Where it starts' : 'Where it ends', { [end]: number })
  input.value = String(mapping[end] ?? span.value[end])
}
/** A curve that is refused is not shown as if it were taken. */
function setCurve(event: Event): void {
  const select = event.target as HTMLSelectElement
  emit('set', 'Its curve', { curve: select.value as Mapping['curve'] })
  void nextTick(() => (select.value = mapping.curve))
}
const FIELD = 'bg-raised border-line h-7 min-w-0 rounded-md border px-1.5'
</script>

<template>
  <div
    class="grid grid-cols-[max-content_minmax(0,1fr)_max-content_minmax(0,1fr)] items-center gap-x-2 gap-y-1.5 text-xs"
  >
    <KeyPicker
      v-if="keys && rigs.rig"
      class="col-span-4"
      :low="keys.low"
      :high="keys.high"
      :middle-c="rigs.rig.middleC"
      :model-value="mapping.key"
      @update:model-value="emit('set', 'Its key', { key: $event })"
    />
    <template v-if="destination.scopes.length > 0">
      <label class="text-soft" :for="`scope-${mapping.id}`">Counts</label>
      <select
        :id="`scope-${mapping.id}`"
        class="col-span-3"
        :class="FIELD"
        :value="mapping.scope ?? ''"
        @change="emit('set', 'Where it counts', { scope: textOf($event) || null })"
      >
        <option value="">everywhere</option>
        <option v-for="each in destination.scopes" :key="each.id" :value="each.id">
          only in {{ each.name }}
        </option>
      </select>
    </template>
    <template v-if="hasRange">
      <span class="text-soft">Range</span>
      <span class="col-span-3 flex flex-wrap items-center gap-1.5">
        <input
          :class="FIELD"
          class="tag w-16"
          aria-label="From"
          data-testid="mapping-min"
          :value="mapping.min ?? span.min"
          @change="setEnd('min', $event)"
        />
        to
        <input
          :class="FIELD"
          class="tag w-16"
          aria-label="To"
          data-testid="mapping-max"
          :value="mapping.max ?? span.max"
          @change="setEnd('max', $event)"
        />
        <span class="text-soft">{{ span.unit }}</span>
        <ChipToggle
          :is-on="mapping.inverted"
          data-testid="inverted"
          @click="emit('set', 'Turn it round', { inverted: !mapping.inverted })"
          >inverted</ChipToggle
        >
      </span>
      <p v-if="refusal" class="text-conflict col-span-4" role="alert">{{ refusal }}</p>
      <label class="text-soft" :for="`curve-${mapping.id}`">Curve</label>
      <select
        :id="`curve-${mapping.id}`"
        :class="FIELD"
        :value="mapping.curve"
        data-testid="mapping-curve"
        @change="setCurve"
      >
        <option v-for="(name, curve) in CURVE_NAMES" :key="curve" :value="curve">{{ name }}</option>
      </select>
      <label class="text-soft" :for="`takeover-${mapping.id}`">Takes over</label>
      <select
        :id="`takeover-${mapping.id}`"
        :class="FIELD"
        :value="mapping.takeover"
        @change="emit('set', 'How it takes over', { takeover: textOf($event) as Mapping['takeover'] })"
      >
        <option v-for="(name, takeover) in TAKEOVER_WORDS" :key="takeover" :value="takeover">
          {{ name }}
        </option>
      </select>
    </template>
    <label class="text-soft" :for="`manner-${mapping.id}`">Expects</label>
    <select
      :id="`manner-${mapping.id}`"
      :class="FIELD"
      :value="mannerOf(mapping)"
      @change="emit('set', 'What it expects', { expects: expectsOf(textOf($event) as Manner) })"
    >
      <option v-for="each in MANNERS" :key="each.value" :value="each.value">{{ each.label }}</option>
    </select>
    <span class="text-soft">Feedback</span>
    <span>
      <ChipToggle
        :is-on="mapping.feedback"
        @click="emit('set', 'Feedback', { feedback: !mapping.feedback })"
        >{{ mapping.feedback ? 'sent back' : 'none' }}</ChipToggle
      >
    </span>
    <p v-if="mapping.feedback && !destination.feedback" class="text-advice col-span-4">
      {{ destination.name }} sends no feedback.
    </p>
    <label class="text-soft" :for="`memo-${mapping.id}`">Memo</label>
    <input
      :id="`memo-${mapping.id}`"
      class="col-span-3"
      :class="FIELD"
      maxlength="4000"
      :value="mapping.memo"
      @change="emit('set', 'Memo', { memo: textOf($event) })"
    />
  </div>
</template>
