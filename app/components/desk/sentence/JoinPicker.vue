<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { chartedAt, printExpected } from '#core/mappings'
import { parameterName, type GestureRef, type Mapping, type Parameter } from '#core/rig'

const { gesture } = defineProps<{ gesture: GestureRef }>()
const emit = defineEmits<{ done: [] }>()
const rigs = useRigStore()
const edit = useEdit()

const SHOWN_AT_MOST = 200
const destinations = computed(() => rigs.rig?.destinations ?? [])
const destinationId = ref(destinations.value[0]?.id ?? '')
const destination = computed(() => destinations.value.find(({ id }) => id === destinationId.value))
const query = ref('')
const input = useTemplateRef('input')

const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (destination.value?.parameters ?? []).filter((parameter) => {
    const charted = chartedAt(parameter)
    const text = `${parameterName(parameter)} ${charted ? printExpected(charted) : ''}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
})
const address = (parameter: Parameter): string => {
  const charted = chartedAt(parameter)
  return charted ? printExpected(charted) : ''
}

/** An id that no mapping has. */
function freshId(): string {
  const taken = new Set(rigs.rig?.mappings.map(({ id }) => id))
  let number = taken.size + 1
  while (taken.has(`map-${number}`)) number++
  return `map-${number}`
}

function join(parameter: Parameter | null): void {
  if (!parameter || !destination.value) return
  const mapping: Mapping = {
    id: freshId(),
    gesture,
    destination: destination.value.id,
    parameter: parameter.id,
    learnedAt: null,
    scope: null,
    min: null,
    max: null,
    inverted: false,
    curve: 'linear',
    takeover: 'when-met',
    expects: { kind: 'absolute' },
    feedback: destination.value.feedback,
    memo: '',
  }
  const label = `Join to ${destination.value.name} · ${parameterName(parameter)}`
  if (edit(label, [{ type: 'mapping-add', mapping }])) emit('done')
}

onMounted(() => (input.value?.$el as HTMLInputElement | undefined)?.focus())
</script>

<template>
  <div
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
          v-for="each in destinations"
          :key="each.id"
          type="button"
          role="radio"
          :aria-checked="each.id === destinationId"
          class="h-6 rounded-md border px-2 text-xs font-medium"
          :class="
            each.id === destinationId
              ? 'bg-ink text-sheet border-ink'
              : 'border-line text-soft hover:text-ink'
          "
          @click="destinationId = each.id"
        >
          {{ each.name }}
        </button>
      </div>
      <Combobox :model-value="null" @update:model-value="join">
        <div class="mt-2 flex gap-1.5">
          <ComboboxInput
            ref="input"
            class="bg-sheet border-line h-8 min-w-0 flex-1 rounded-md border px-2"
            :placeholder="`Search the parameters of ${destination?.name}`"
            :aria-label="`Parameter of ${destination?.name}`"
            autocomplete="off"
            @change="query = $event.target.value"
          />
          <UiButton class="h-8!" @click="emit('done')">Cancel</UiButton>
        </div>
        <ComboboxOptions static class="border-line mt-1.5 max-h-48 overflow-auto border-t pt-1">
          <ComboboxOption
            v-for="parameter in found.slice(0, SHOWN_AT_MOST)"
            :key="parameter.id"
            v-slot="{ active }"
            :value="parameter"
          >
            <div
              class="flex justify-between gap-3 rounded px-2 py-1"
              :class="active && 'bg-marker text-on-marker'"
            >
              <span>{{ parameterName(parameter) }}</span>
              <span class="tag opacity-75">{{ address(parameter) }}</span>
            </div>
          </ComboboxOption>
          <li v-if="found.length === 0" class="text-soft px-2 py-1.5">
            Nothing there is called that. Try fewer letters.
          </li>
          <li v-if="found.length > SHOWN_AT_MOST" class="text-soft px-2 py-1.5">
            and {{ found.length - SHOWN_AT_MOST }} more: type a few letters of the name
          </li>
        </ComboboxOptions>
      </Combobox>
    </template>
  </div>
</template>
