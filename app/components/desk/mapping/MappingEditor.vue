<script setup lang="ts">
import { mappingFacts } from '#core/mappings'
import {
  findGesture,
  parameterName,
  programmedAt,
  TAKEOVER_WORDS,
  type Destination,
  type Mapping,
  type Parameter,
} from '#core/rig'
import type { WholeRange } from '#core/values'
import { inAndOut, takeoverLines } from '~/lib/mapping/charts'
import { factWords, restWords } from '~/lib/mapping/words'

/** How a control moves a parameter: its fields, what comes of them in words, and as a chart. */
const { mapping, destination, parameter } = defineProps<{
  mapping: Mapping
  destination: Destination
  parameter: Parameter
}>()
const rigs = useRigStore()
const desk = useDeskStore()
const refusal = ref<string | null>(null)
const edit = useEdit({ refused: (why) => (refusal.value = why) })

function set(label: string, change: Partial<Omit<Mapping, 'id'>>): boolean {
  refusal.value = null
  return edit(`${label}: ${parameterName(parameter)}`, [
    { type: 'mapping-set', mapping: mapping.id, set: change },
  ])
}
const facts = computed(() => {
  const place = desk.gesture ? desk.placeOf(desk.gesture) : null
  const found = rigs.rig && mapping.gesture ? findGesture(rigs.rig, mapping.gesture) : null
  const message = rigs.rig && place ? programmedAt(rigs.rig, place)?.assignment.messages[0] : null
  return found && message ? mappingFacts(mapping, parameter, destination, message, found.control) : null
})
const restsInCentre = computed(
  () =>
    (rigs.rig && mapping.gesture && findGesture(rigs.rig, mapping.gesture)?.control.restsInCentre) === true,
)
const words = computed(() =>
  facts.value
    ? [
        ...factWords(facts.value, parameter),
        ...(restsInCentre.value ? restWords(facts.value, parameter) : []),
      ]
    : [],
)
const hasSteps = computed(() => facts.value?.share !== null && facts.value !== null)

type Drawing = 'values' | 'takeover' | 'steps'
const drawing = ref<Drawing>('values')
const DRAWINGS = computed(() => [
  { id: 'values' as const, name: 'In and out', isThere: values.value.length > 0 },
  { id: 'takeover' as const, name: 'Takeover', isThere: facts.value?.travel.kind === 'sweep' },
  { id: 'steps' as const, name: 'Whole steps', isThere: hasSteps.value },
])
const values = computed(() => (facts.value ? inAndOut(facts.value, restsInCentre.value) : []))
const start = reactive({ control: 20, parameter: 70 })
const takeover = computed(() =>
  facts.value
    ? takeoverLines(facts.value, mapping.takeover, {
        control: start.control / 100,
        parameter: start.parameter / 100,
      })
    : [],
)
const up = computed(() => [parameter.name, facts.value?.range.span.unit].filter(Boolean).join(', '))
const across = computed(() => (facts.value?.travel.kind === 'clicks' ? 'clicks' : 'sent'))
const choose = ({ min, max }: WholeRange): boolean => set('Whole steps', { min, max })
</script>

<template>
  <div class="border-hair mt-2 flex flex-col gap-2 border-t pt-2" data-testid="mapping-editor">
    <MappingFields :mapping="mapping" :destination="destination" :parameter="parameter" @set="set" />
    <p v-if="refusal" class="text-conflict text-xs" role="alert">{{ refusal }}</p>
    <p class="text-xs" data-testid="mapping-facts">{{ words.join(' ') }}</p>
    <template v-if="DRAWINGS.some(({ isThere }) => isThere)">
      <TabStrip
        v-model="drawing"
        :tabs="DRAWINGS.filter(({ isThere }) => isThere)"
        label="What is shown"
        attribute="data-drawing"
        is-small
      />
      <LazyValueChart
        v-if="drawing === 'values' && values.length > 0"
        :lines="values"
        :across="across"
        :up="up"
        :spoken="words.join(' ')"
      />
      <template v-else-if="drawing === 'takeover' && facts">
        <LazyValueChart
          :lines="takeover"
          across="the control goes up, then down"
          is-way
          :up="up"
          :spoken="`Taken over ${TAKEOVER_WORDS[mapping.takeover]}, from a control at ${start.control} percent and a parameter at ${start.parameter}.`"
        />
        <label class="grid grid-cols-[7rem_1fr] items-center text-xs"
          >Control stands at<input
            v-model.number="start.control"
            type="range"
            min="0"
            max="100"
            class="accent-ink"
        /></label>
        <label class="grid grid-cols-[7rem_1fr] items-center text-xs"
          >Parameter at<input
            v-model.number="start.parameter"
            type="range"
            min="0"
            max="100"
            class="accent-ink"
        /></label>
      </template>
      <LazyWholeSteps
        v-else-if="drawing === 'steps' && facts && hasSteps"
        :key="mapping.id"
        :facts="facts"
        @choose="choose"
      />
    </template>
  </div>
</template>
