<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { chartedAt, freeMappingId, freshMapping, moverName, printListening } from '#core/mappings'
import { parameterName, type Destination, type Parameter } from '#core/rig'

const emit = defineEmits<{ done: [] }>()
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()

/** One parameter to join to, with its destination. */
interface Candidate {
  key: string
  destination: Destination
  parameter: Parameter
  name: string
  address: string
}

const SHOWN_AT_MOST = 200
const ANY = ''
const destinations = computed(() => rigs.rig?.destinations ?? [])
const chosen = ref(ANY)
const query = ref('')
const input = useTemplateRef('input')
const frame = useTemplateRef('frame')

const candidates = computed<Candidate[]>(() =>
  destinations.value
    .filter(({ id }) => chosen.value === ANY || id === chosen.value)
    .flatMap((destination) =>
      destination.parameters.map((parameter) => {
        const charted = chartedAt(parameter)
        const name = parameterName(parameter)
        return {
          key: `${destination.id}/${parameter.id}`,
          destination,
          parameter,
          name: chosen.value === ANY ? `${destination.name} · ${name}` : name,
          address: charted ? printListening(charted) : '',
        }
      }),
    ),
)
const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  return candidates.value.filter(({ name, address }) => {
    const text = `${name} ${address}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
})
const keys = useKeysAtHand()
const key = ref<number | null>(null)
const choices = computed(() => [
  { id: ANY, name: 'Any' },
  ...destinations.value.map(({ id, name }) => ({ id, name })),
])

function join(candidate: Candidate | null): void {
  const { gesture, controller, template } = desk
  if (!candidate || !rigs.rig || !gesture || !controller || !template) return
  const place = desk.placeOf(gesture) ?? {
    controller: controller.id,
    template: template.id,
    layer: null,
    gesture,
  }
  const { destination, parameter } = candidate
  const mapping = freshMapping(
    rigs.rig,
    freeMappingId(rigs.rig),
    place,
    destination.id,
    parameter.id,
    null,
    keys.value && key.value,
  )
  const by = mapping.key === null ? '' : `${moverName(rigs.rig, mapping)} `
  const label = `Join ${by}to ${destination.name} · ${parameterName(parameter)}`
  if (edit(label, [{ type: 'mapping-add', mapping }])) emit('done')
}

onMounted(() => {
  frame.value?.scrollIntoView({ block: 'nearest' })
  const element: unknown = input.value?.$el
  if (element instanceof HTMLInputElement) element.focus({ preventScroll: true })
})
</script>

<template>
  <div
    ref="frame"
    class="bg-raised border-ink rounded-md border p-2"
    data-testid="join-picker"
    @keydown.esc.stop="emit('done')"
  >
    <div v-if="destinations.length === 0" class="text-soft p-1">
      This rig has no destination yet: nothing to join to.
      <UiButton class="mt-2" @click="emit('done')">Close</UiButton>
    </div>
    <template v-else>
      <div class="flex flex-wrap gap-1" role="radiogroup" aria-label="Destination">
        <button
          v-for="choice in choices"
          :key="choice.id"
          type="button"
          role="radio"
          :aria-checked="choice.id === chosen"
          class="h-6 rounded-md border px-2 text-xs font-medium"
          :class="
            choice.id === chosen ? 'bg-ink text-sheet border-ink' : 'border-line text-soft hover:text-ink'
          "
          @click="chosen = choice.id"
        >
          {{ choice.name }}
        </button>
      </div>
      <KeyPicker
        v-if="keys && rigs.rig"
        v-model="key"
        class="mt-2"
        :low="keys.low"
        :high="keys.high"
        :middle-c="rigs.rig.middleC"
      />
      <Combobox :model-value="null" @update:model-value="join">
        <div class="mt-2 flex gap-1.5">
          <ComboboxInput
            ref="input"
            class="bg-sheet border-line h-8 min-w-0 flex-1 rounded-md border px-2"
            placeholder="Name of a parameter"
            aria-label="Name of a parameter"
            autocomplete="off"
            @change="query = $event.target.value"
          />
          <UiButton class="h-8!" @click="emit('done')">Cancel</UiButton>
        </div>
        <ComboboxOptions
          v-if="found.length > 0"
          static
          class="border-line mt-1.5 max-h-44 overflow-auto border-t pt-1"
          aria-label="Parameters"
        >
          <ComboboxOption
            v-for="candidate in found.slice(0, SHOWN_AT_MOST)"
            :key="candidate.key"
            v-slot="{ active }"
            :value="candidate"
          >
            <div
              class="flex justify-between gap-3 rounded px-2 py-1"
              :class="active && 'bg-marker text-on-marker'"
              :data-parameter="candidate.key"
            >
              <span>{{ candidate.name }}</span>
              <span class="tag shrink-0 opacity-75">{{ candidate.address }}</span>
            </div>
          </ComboboxOption>
        </ComboboxOptions>
        <p v-if="found.length === 0" class="text-soft px-2 py-1.5" role="status">
          No parameter is called that. Try fewer letters, or another destination.
        </p>
        <p v-else-if="found.length > SHOWN_AT_MOST" class="text-soft px-2 pt-1.5 text-xs">
          and {{ found.length - SHOWN_AT_MOST }} more: type a few letters of the name
        </p>
      </Combobox>
    </template>
  </div>
</template>
