<script setup lang="ts">
import { chartedAt, mappingsByParameter, printListening } from '#core/mappings'
import { fixedAddressFrom, parameterName, type Destination, type Parameter } from '#core/rig'

/** One parameter of a destination as a line of fields, with what moves it. */
const { destination, parameter, isPicked } = defineProps<{
  destination: Destination
  parameter: Parameter
  isPicked: boolean
}>()
const emit = defineEmits<{ pick: [] }>()
const rigs = useRigStore()

const KINDS: ReadonlyArray<{ kind: Parameter['kind']; name: string }> = [
  { kind: 'continuous', name: 'continuous' },
  { kind: 'switch', name: 'switch' },
  { kind: 'choice', name: 'choice' },
  { kind: 'action', name: 'action' },
  { kind: 'note', name: 'note' },
  { kind: 'relative', name: 'of the selected' },
]
const refusal = ref<string | null>(null)
const edit = useEdit({ refused: (why) => (refusal.value = why) })

function set(change: Partial<Omit<Parameter, 'id'>>): void {
  refusal.value = null
  edit(`Change ${parameterName(parameter)}`, [
    { type: 'parameter-set', destination: destination.id, parameter: parameter.id, set: change },
  ])
}
const fieldOf = (event: Event): HTMLInputElement => event.target as HTMLInputElement
const listFrom = (text: string, between: RegExp): string[] =>
  text
    .split(between)
    .map((part) => part.trim())
    .filter(Boolean)

/** A number as typed, or null for an empty field; what is no number is refused, and the field goes back. */
function numberFrom(event: Event, before: number | null): number | null | undefined {
  const typed = fieldOf(event).value.trim().replace(',', '.')
  if (typed === '') return null
  if (Number.isFinite(Number(typed))) return Number(typed)
  refusal.value = `“${typed}” is no number.`
  fieldOf(event).value = before === null ? '' : String(before)
  return undefined
}
function setEnd(end: 'min' | 'max', event: Event): void {
  const number = numberFrom(event, parameter.range?.[end] ?? null)
  if (number === undefined) return
  if (number === null) return set({ range: null })
  const { range } = parameter
  const fresh =
    end === 'min' ? { min: number, max: number + 1 } : { min: Math.min(0, number - 1), max: number }
  set({ range: range ? { ...range, [end]: number } : { ...fresh, unit: '' } })
}
function setCount(event: Event): void {
  const number = numberFrom(event, parameter.steps)
  if (number !== undefined) set({ steps: number })
}
function setStep(event: Event): void {
  const number = numberFrom(event, parameter.nativeStep)
  if (number !== undefined) set({ nativeStep: number })
}
const address = computed(() => {
  const charted = chartedAt(parameter)
  return charted ? printListening(charted) : ''
})
function setAddress(event: Event): void {
  const fixed = fixedAddressFrom(fieldOf(event).value.trim())
  if (typeof fixed !== 'string') return set({ fixed })
  refusal.value = fixed
  fieldOf(event).value = address.value
}
/** What belongs to one kind only goes when the kind does. */
function setKind(kind: Parameter['kind']): void {
  set({
    kind,
    choices: kind === 'choice' ? parameter.choices : [],
    standsFor: kind === 'relative' ? parameter.standsFor : null,
    switchesTo: kind === 'action' ? parameter.switchesTo : null,
  })
}

const MOST = 3
const movers = computed(() => (rigs.rig ? mappingsByParameter(rigs.rig, destination.id, parameter.id) : []))
const scopeName = (id: string | null): string | null =>
  destination.scopes.find((each) => each.id === id)?.name ?? null
const hasValues = computed(() => parameter.kind === 'continuous' || parameter.kind === 'relative')
const FIELD =
  'bg-transparent border-transparent hover:border-line focus:border-ink focus:bg-raised h-7 min-w-0 rounded-md border px-1.5'
</script>

<template>
  <div
    class="parameter-row border-hair relative items-center border-b text-xs"
    :class="isPicked && 'bg-marker text-on-marker'"
    :data-parameter-row="parameter.id"
    role="listitem"
  >
    <input
      type="checkbox"
      class="accent-ink justify-self-center"
      :checked="isPicked"
      :aria-label="`Pick ${parameterName(parameter)}`"
      @click="emit('pick')"
    />
    <input
      :class="FIELD"
      aria-label="Group"
      :value="parameter.path.join(' · ')"
      maxlength="200"
      @change="set({ path: listFrom(fieldOf($event).value, /\s*[·>]\s*/) })"
    />
    <input
      :class="FIELD"
      class="font-medium"
      aria-label="Name"
      maxlength="120"
      :value="parameter.name"
      @change="set({ name: fieldOf($event).value })"
    />
    <select
      :class="FIELD"
      aria-label="Kind"
      :value="parameter.kind"
      @change="setKind(fieldOf($event).value as Parameter['kind'])"
    >
      <option v-for="each in KINDS" :key="each.kind" :value="each.kind">{{ each.name }}</option>
    </select>
    <template v-if="hasValues">
      <input
        :class="FIELD"
        class="tag"
        aria-label="From"
        placeholder="–"
        :value="parameter.range?.min ?? ''"
        @change="setEnd('min', $event)"
      />
      <input
        :class="FIELD"
        class="tag"
        aria-label="To"
        placeholder="–"
        :value="parameter.range?.max ?? ''"
        @change="setEnd('max', $event)"
      />
      <input
        :class="FIELD"
        aria-label="Unit"
        maxlength="16"
        :disabled="parameter.range === null"
        :value="parameter.range?.unit ?? ''"
        @change="parameter.range && set({ range: { ...parameter.range, unit: fieldOf($event).value } })"
      />
      <input
        :class="FIELD"
        class="tag"
        aria-label="Number of values"
        placeholder="any"
        :value="parameter.steps ?? ''"
        @change="setCount"
      />
    </template>
    <span v-else class="col-span-4" />
    <input
      :class="FIELD"
      class="tag"
      aria-label="Listens at"
      placeholder="learns"
      :value="address"
      @change="setAddress"
    />
    <input
      v-if="parameter.kind === 'choice'"
      :class="FIELD"
      aria-label="Choices, with a bar between"
      placeholder="one | two"
      :value="parameter.choices.join(' | ')"
      @change="set({ choices: listFrom(fieldOf($event).value, /\s*\|\s*/), steps: null })"
    />
    <input
      v-else-if="parameter.kind === 'relative'"
      :class="FIELD"
      aria-label="Name of the parameters it stands for"
      placeholder="stands for …"
      :value="parameter.standsFor ?? ''"
      @change="set({ standsFor: fieldOf($event).value.trim() || null })"
    />
    <select
      v-else-if="parameter.kind === 'action' && destination.scopes.length > 0"
      :class="FIELD"
      aria-label="Switches to"
      :value="parameter.switchesTo ?? ''"
      @change="set({ switchesTo: fieldOf($event).value || null })"
    >
      <option value="">switches nothing</option>
      <option v-for="each in destination.scopes" :key="each.id" :value="each.id">to {{ each.name }}</option>
    </select>
    <input
      v-else-if="hasValues && destination.stepRule.kind === 'per-parameter'"
      :class="FIELD"
      class="tag"
      aria-label="One click moves it by"
      placeholder="a click is …"
      :value="parameter.nativeStep ?? ''"
      @change="setStep"
    />
    <span v-else />
    <span class="flex min-w-0 gap-1">
      <MoverChip
        v-for="mapping in movers.slice(0, MOST)"
        :key="mapping.id"
        :mapping="mapping"
        :scope="scopeName(mapping.scope)"
        @click="navigateTo('/desk')"
      />
      <span v-if="movers.length > MOST" class="text-soft">+{{ movers.length - MOST }}</span>
      <span v-if="movers.length === 0" class="text-soft">nothing</span>
    </span>
    <p
      v-if="refusal"
      role="alert"
      class="bg-conflict-soft text-conflict border-conflict shadow-float absolute top-full left-10 z-20 rounded-md border px-2 py-1 font-medium"
    >
      {{ refusal }}
      <button type="button" class="ml-2 underline" @click="refusal = null">all right</button>
    </p>
  </div>
</template>
